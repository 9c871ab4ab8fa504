import { useState } from "react";
import type { AccessOfMany } from "@/api/sources";
import { FormError } from "@/components/FormError";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";

const KEPT = { value: "kept", label: "as each has it" } as const;
const SET = [KEPT, { value: "set", label: "set" }] as const;
const CERTIFICATES = [
  KEPT,
  { value: "trusted", label: "only one that is vouched for" },
  { value: "any", label: "any certificate" },
] as const;

type Numbers = "pause_ms" | "patience_s" | "tries";

const ROWS: readonly {
  name: Numbers;
  words: string;
  unit: string;
  usual: number;
  min: number;
  max: number;
}[] = [
  { name: "pause_ms", words: "Pause between two requests:", unit: "ms", usual: 1000, min: 0, max: 60_000 },
  { name: "patience_s", words: "Wait for an answer:", unit: "seconds", usual: 40, min: 0, max: 120 },
  { name: "tries", words: "Tries in one reading:", unit: "", usual: 3, min: 1, max: 5 },
];

interface AccessTogetherProps {
  number: number;
  busy: boolean;
  error: Error | null;
  onSave: (access: AccessOfMany) => void;
  onClose: () => void;
}

/** Asks how several sources are asked; secrets stay those of each. */
export function AccessTogether({ number, busy, error, onSave, onClose }: AccessTogetherProps) {
  const [numbers, setNumbers] = useState<Partial<Record<Numbers, number>>>({});
  const [certificate, setCertificate] = useState<(typeof CERTIFICATES)[number]["value"]>("kept");
  const nothing = Object.keys(numbers).length === 0 && certificate === "kept";
  const set = (name: Numbers, value: number | undefined) =>
    setNumbers(({ [name]: _before, ...others }) =>
      value === undefined ? others : { ...others, [name]: value },
    );
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`How ${plural(number, "source")} are asked`}
      description="Their headers, names and passwords stay as they are."
    >
      <ul className="space-y-2">
        {ROWS.map(({ name, words, unit, usual, min, max }) => {
          const value = numbers[name];
          return (
            <li key={name}>
              {words}{" "}
              <WordSelect
                label={words}
                value={value === undefined ? "kept" : "set"}
                options={SET}
                onChange={(next) => set(name, next === "set" ? usual : undefined)}
              />
              {value !== undefined && (
                <>
                  {" "}
                  to{" "}
                  <WordNumber
                    label={`${words} value`}
                    value={value}
                    min={min}
                    max={max}
                    onChange={(next) => set(name, next)}
                  />{" "}
                  {unit}
                </>
              )}
            </li>
          );
        })}
        <li>
          Certificate:{" "}
          <WordSelect
            label="Certificate"
            value={certificate}
            options={CERTIFICATES}
            tone={certificate === "any" ? "madder" : "plain"}
            onChange={setCertificate}
          />
        </li>
      </ul>
      <FormError error={error} />
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          look="primary"
          busy={busy}
          disabled={nothing}
          onClick={() =>
            onSave({
              pause_ms: null,
              patience_s: null,
              tries: null,
              ...numbers,
              any_certificate: certificate === "kept" ? null : certificate === "any",
            })
          }
        >
          Change {plural(number, "source")}
        </Button>
      </div>
    </Dialog>
  );
}
