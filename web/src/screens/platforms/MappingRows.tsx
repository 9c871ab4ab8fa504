import { useState } from "react";
import { Button } from "@/ui/Button";
import { inputLook } from "@/ui/Field";

interface MappingRowsProps {
  label: string;
  hint: string;
  error?: string | undefined;
  value: Record<string, string>;
  onChange: (value: Record<string, string>) => void;
  aimed?: string | undefined;
  onAim?: ((name: string) => void) | undefined;
}

/** Names with values: the headers of an API, or the paths of its fields. */
export function MappingRows({ label, hint, error, value, onChange, aimed, onAim }: MappingRowsProps) {
  const [name, setName] = useState("");
  const rows = Object.entries(value);
  const add = () => {
    const key = name.trim();
    if (key && !(key in value)) onChange({ ...value, [key]: "" });
    setName("");
  };
  return (
    <fieldset className="col-span-full">
      <legend className="mb-1 font-semibold">
        {label} <span className="ml-1 text-xs font-normal text-ink3">{hint}</span>
      </legend>
      <ul className="space-y-1">
        {rows.map(([key, text]) => (
          <li key={key} className="flex items-center gap-2 text-xs">
            <span className="w-24 shrink-0 truncate font-medium">{key}</span>
            <input
              aria-label={`${label}: ${key}`}
              value={text}
              spellCheck={false}
              onChange={(event) => onChange({ ...value, [key]: event.target.value })}
              className={`${inputLook} !py-0.5 font-mono text-xs`}
            />
            {onAim && (
              <Button
                small
                look={aimed === key ? "primary" : "plain"}
                aria-pressed={aimed === key}
                onClick={() => onAim(key)}
              >
                Point
              </Button>
            )}
            <Button
              small
              aria-label={`Remove ${key}`}
              onClick={() => onChange(Object.fromEntries(rows.filter(([other]) => other !== key)))}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-1.5 flex items-center gap-2">
        <input
          aria-label={`New name for ${label}`}
          value={name}
          placeholder="another name"
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            event.preventDefault();
            add();
          }}
          className={`${inputLook} !w-36 !py-0.5 text-xs`}
        />
        <Button small disabled={!name.trim()} onClick={add}>
          Add
        </Button>
      </div>
      {error && (
        <p role="alert" className="mt-1 text-xs font-medium text-madder">
          {error}
        </p>
      )}
    </fieldset>
  );
}
