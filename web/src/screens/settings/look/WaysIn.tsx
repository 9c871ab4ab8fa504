import { Plus, Trash2 } from "lucide-react";
import type { WayIn } from "@/api/blogs";
import { Button } from "@/ui/Button";
import { inputLook } from "@/ui/Field";

const MOST = 20;

interface WaysInProps {
  legend: string;
  hint: string;
  ways: readonly WayIn[];
  faultAt: (place: number) => string | undefined;
  onChange: (ways: WayIn[]) => void;
}

/** The entries of a menu: what each is called, and where it leads. */
export function WaysIn({ legend, hint, ways, faultAt, onChange }: WaysInProps) {
  const set = (place: number, part: Partial<WayIn>) =>
    onChange(ways.map((way, at) => (at === place ? { ...way, ...part } : way)));
  return (
    <fieldset>
      <legend className="font-semibold">{legend}</legend>
      <p className="mb-1.5 text-ink3 text-xs">{hint}</p>
      <ol className="space-y-1.5">
        {ways.map((way, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: an entry is known by its place
          <li key={place}>
            <div className="flex items-center gap-1.5">
              <input
                aria-label={`${legend}: words of entry ${place + 1}`}
                className={`${inputLook} !w-32 !py-0.5`}
                placeholder="About"
                maxLength={60}
                value={way.label}
                onChange={(event) => set(place, { label: event.target.value })}
              />
              <input
                aria-label={`${legend}: address of entry ${place + 1}`}
                className={`${inputLook} !py-0.5`}
                placeholder="about/"
                maxLength={500}
                value={way.to}
                onChange={(event) => set(place, { to: event.target.value })}
              />
              <button
                type="button"
                aria-label={`${legend}: remove entry ${place + 1}`}
                className="inline-flex size-6 shrink-0 items-center justify-center text-ink3 hover:text-madder"
                onClick={() => onChange(ways.filter((_, at) => at !== place))}
              >
                <Trash2 size={13} />
              </button>
            </div>
            {faultAt(place) && (
              <p role="alert" className="text-madder text-xs">
                {faultAt(place)}
              </p>
            )}
          </li>
        ))}
      </ol>
      {ways.length < MOST && (
        <Button small look="quiet" onClick={() => onChange([...ways, { label: "", to: "" }])}>
          <Plus size={13} aria-hidden="true" /> Add an entry
        </Button>
      )}
    </fieldset>
  );
}
