import type { DataList } from "@/api/pages";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";

const PATHS = [
  ["list", "The list"],
  ["url", "Address"],
  ["title", "Title"],
  ["date", "Date"],
  ["picture", "Picture"],
  ["excerpt", "Excerpt"],
] as const;

interface DataCardProps {
  data: DataList;
  /** The number of articles read from it. */
  found: number;
  onChange: (data: DataList) => void;
  onLeave: () => void;
}

/** The paths of the list in a page's data, which can be typed. */
export function DataCard({ data, found, onChange, onLeave }: DataCardProps) {
  return (
    <section aria-label="Data of the page" className="rounded-[10px] border border-verd bg-sheet p-3">
      <div className="flex items-center gap-2">
        <h3 className="font-semibold">Data of the page</h3>
        <span className={`text-xs ${found ? "text-ink3" : "text-madder"}`}>{plural(found, "article")}</span>
        <span className="ml-auto">
          <Button small onClick={onLeave}>
            Use selectors
          </Button>
        </span>
      </div>
      <p className="my-1.5 text-xs text-ink3">
        The page carries this list for its own scripts. Paths have dots between names; the fields stand in
        each entry of the list.
      </p>
      {PATHS.map(([name, label]) => (
        <label key={name} className="mt-1 flex items-center gap-2 text-xs">
          <span className="w-16 shrink-0">{label}</span>
          <input
            value={data[name] ?? ""}
            spellCheck={false}
            aria-label={`Path of ${label}`}
            onChange={(event) => onChange({ ...data, [name]: event.target.value })}
            className="min-w-0 flex-1 rounded-[7px] border border-line bg-chalk px-2 py-0.5 font-mono"
          />
        </label>
      ))}
    </section>
  );
}
