import { Trash2 } from "lucide-react";
import type { ReactNode } from "react";
import type { Part } from "@/api/blogs";
import { inputLook } from "@/ui/Field";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { ChosenPosts } from "./ChosenPosts";
import { PART_KINDS, PLACES } from "./parts";
import { WhichWords } from "./WhichWords";

const MOST = 24;

const TABLE_ORDERS = [
  { value: "newest", label: "the newest first" },
  { value: "reduced", label: "what is reduced most first" },
  { value: "cheapest", label: "what costs least first" },
] as const;

interface PartCardProps {
  blog: string;
  part: Part;
  handle: ReactNode;
  onChange: (part: Part) => void;
  onRemove: () => void;
}

/** One part of the front: what it shows, how much of it, and where it stands. */
export function PartCard({ blog, part, handle, onChange, onRemove }: PartCardProps) {
  const { label, hint, chooses } = PART_KINDS[part.kind];
  const set = (changed: object) => onChange({ ...part, ...changed } as Part);
  return (
    <section aria-label={label} className="sheet-card p-3">
      <header className="flex items-center gap-2">
        {handle}
        <h3 className="whitespace-nowrap font-semibold">{label}</h3>
        <span className="truncate text-ink3 text-xs">{hint}</span>
        {part.kind !== "newest" && (
          <button
            type="button"
            aria-label={`Remove ${label}`}
            title="Remove"
            className="ml-auto inline-flex size-6 shrink-0 items-center justify-center text-ink3 hover:text-madder"
            onClick={onRemove}
          >
            <Trash2 size={13} />
          </button>
        )}
      </header>
      <p className="mt-1.5 leading-7 text-ink2">
        {"count" in part && (
          <>
            At most{" "}
            <WordNumber
              label={`Number of ${label}`}
              value={part.count ?? 1}
              min={1}
              max={MOST}
              onChange={(count) => set({ count })}
            />{" "}
            {part.kind === "sources" ? "sources" : "posts "}
          </>
        )}
        {part.kind === "opener" && "The newest post "}
        {chooses && "which" in part && (
          <WhichWords blog={blog} which={part.which} onChange={(which) => set({ which })} />
        )}
        {part.kind === "table" && (
          <>
            {", "}
            <WordSelect
              label={`Order of ${label}`}
              value={part.order ?? "newest"}
              options={TABLE_ORDERS}
              onChange={(order) => set({ order })}
            />
          </>
        )}
        {part.kind === "most-read" && (
          <>
            {"of the last "}
            <WordNumber
              label="Days of Most read"
              value={part.days ?? 7}
              min={1}
              max={90}
              onChange={(days) => set({ days })}
            />
            {" days"}
          </>
        )}
        {chooses || "count" in part ? ", " : "Stands "}
        <WordSelect
          label={`Place of ${label}`}
          value={part.place ?? "whole"}
          options={PLACES}
          onChange={(place) => set({ place })}
        />
      </p>
      {part.kind === "words" && (
        <textarea
          aria-label="Text"
          className={`${inputLook} mt-2`}
          rows={4}
          maxLength={4000}
          value={part.text ?? ""}
          onChange={(event) => set({ text: event.target.value })}
        />
      )}
      {part.kind === "chosen" && (
        <ChosenPosts blog={blog} numbers={part.posts ?? []} onChange={(posts) => set({ posts })} />
      )}
      {part.kind !== "day" && part.kind !== "opener" && (
        <label className="mt-2 flex items-center gap-2">
          <span className="text-ink3 text-xs">Heading</span>
          <input
            aria-label={`Heading of ${label}`}
            className={`${inputLook} !py-0.5`}
            maxLength={80}
            placeholder="the usual one"
            value={part.heading ?? ""}
            onChange={(event) => set({ heading: event.target.value })}
          />
        </label>
      )}
    </section>
  );
}
