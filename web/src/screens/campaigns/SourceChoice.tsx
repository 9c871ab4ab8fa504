import type { Source } from "@/api/sources";
import { plural } from "@/lib/format";

interface SourceChoiceProps {
  sources: readonly Source[];
  chosen: readonly string[];
  onChange: (keys: string[]) => void;
  error?: string | undefined;
}

export function SourceChoice({ sources, chosen, onChange, error }: SourceChoiceProps) {
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Sources</legend>
      <div className="max-h-64 overflow-auto rounded-[7px] border border-line">
        {sources.map((source) => (
          <label
            key={source.key}
            className="flex items-center gap-2.5 border-b border-line2 px-3 py-2 last:border-0 hover:bg-chalk"
          >
            <input
              type="checkbox"
              className="accent-verd"
              checked={chosen.includes(source.key)}
              onChange={(event) =>
                onChange(
                  event.target.checked ? [...chosen, source.key] : chosen.filter((key) => key !== source.key),
                )
              }
            />
            <span className="font-medium">{source.title}</span>
            <span className="ml-auto text-xs text-ink3">
              {source.format} · {plural(source.items, "item")}
            </span>
          </label>
        ))}
      </div>
      {error && (
        <p role="alert" className="mt-1 text-xs font-medium text-madder">
          {error}
        </p>
      )}
    </fieldset>
  );
}
