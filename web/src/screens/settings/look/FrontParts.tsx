import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { type Appearance, type Part, readyFrontsQuery } from "@/api/blogs";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { SortableList } from "@/ui/SortableList";
import { LookChoice } from "./LookChoice";
import { FRONTS } from "./looks";
import { PartCard } from "./PartCard";
import { kindsToAdd, moved, newPart, PART_KINDS } from "./parts";

const MOST = 24;

interface FrontPartsProps {
  blog: string;
  look: Appearance;
  onChange: (changed: Partial<Appearance>) => void;
}

/** The kind of the front, and its parts from the top to the bottom. */
export function FrontParts({ blog, look, onChange }: FrontPartsProps) {
  const ready = useQuery(readyFrontsQuery);
  const front = look.front ?? "magazine";
  const own = look.parts?.length ? look.parts : null;
  const parts = own ?? ready.data?.parts[front] ?? [];
  const set = (next: readonly Part[]) => onChange({ parts: [...next] });
  return (
    <>
      <LookChoice
        legend="Front"
        options={FRONTS}
        value={front}
        onChange={(chosen) => onChange({ front: chosen })}
      />
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="font-semibold">Parts</h2>
        <span className="text-ink3 text-xs">
          {own ? "of your own" : "those that are ready for this front"}
        </span>
        {own && (
          <Button small look="quiet" onClick={() => set([])}>
            Back to the ready ones
          </Button>
        )}
      </div>
      {ready.error && <ErrorNote error={ready.error} onRetry={ready.refetch} />}
      {ready.isPending && <Loading what="the parts" rows={4} />}
      <SortableList
        label="Parts of the front"
        one="part"
        entries={parts}
        nameOf={({ kind }) => PART_KINDS[kind].label}
        onMove={(from, to) => set(moved(parts, from, to))}
      >
        {(part, place, handle) => (
          <PartCard
            blog={blog}
            part={part}
            handle={handle}
            onChange={(next) => set(parts.map((before, at) => (at === place ? next : before)))}
            onRemove={() => set(parts.filter((_, at) => at !== place))}
          />
        )}
      </SortableList>
      {parts.length > 0 && parts.length < MOST && (
        <Menu
          trigger={
            <Button small>
              <Plus size={13} aria-hidden="true" /> Add a part
            </Button>
          }
          entries={kindsToAdd(parts).map((kind) => ({
            label: PART_KINDS[kind].label,
            hint: PART_KINDS[kind].hint,
            onSelect: () => set([...parts, newPart(kind, parts)]),
          }))}
        />
      )}
    </>
  );
}
