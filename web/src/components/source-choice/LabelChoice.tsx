import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { chosenSourcesQuery } from "@/api/sources";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import type { Chosen } from "./SourceChoice";

interface LabelChoiceProps {
  blog: string;
  known: readonly string[];
  labels: readonly string[];
  onChange: (next: Partial<Chosen>) => void;
}

/** The labels whose sources all belong to the campaign. */
export function LabelChoice({ blog, known, labels, onChange }: LabelChoiceProps) {
  const all = useQuery({ ...chosenSourcesQuery(blog, [], labels), enabled: labels.length > 0 }).data;
  const free = known.filter((label) => !labels.includes(label));
  return (
    <>
      {labels.map((label) => (
        <span
          key={label}
          className="flex items-center gap-1 rounded-[5px] bg-verd-wash px-2 py-0.5 text-verd-deep"
        >
          all of {label}
          <button
            type="button"
            aria-label={`Take off the label ${label}`}
            onClick={() => onChange({ labels: labels.filter((one) => one !== label) })}
          >
            <X size={12} />
          </button>
        </span>
      ))}
      {free.length > 0 && (
        <Menu
          trigger={<Button small>All of a label</Button>}
          entries={free.map((label) => ({ label, onSelect: () => onChange({ labels: [...labels, label] }) }))}
        />
      )}
      {labels.length > 0 && all && (
        <span className="text-ink3">
          {plural(all.total, "source")} now, and those that get {labels.length > 1 ? "one of them" : "it"}{" "}
          later
        </span>
      )}
    </>
  );
}
