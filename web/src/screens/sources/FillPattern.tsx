import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { type AddressPattern, keepPattern, patternsQuery, removePattern } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

interface FillPatternProps {
  blog: string;
  onClose: () => void;
  /** Gets the addresses, to be tested and shown. */
  onFill: (addresses: string[]) => void;
}

/** The address of a template for a value. */
export function filled({ address, place }: AddressPattern, value: string): string {
  return address.replace(`{${place}}`, encodeURIComponent(value));
}

/** Feeds made from an address template and a list of values. */
export function FillPattern({ blog, onClose, onFill }: FillPatternProps) {
  const patterns = useQuery(patternsQuery(blog)).data ?? [];
  const [chosen, setChosen] = useState<number | null>(null);
  const [text, setText] = useState("");
  const [name, setName] = useState("");
  const [address, setAddress] = useState("");
  const refresh = [keys.patterns(blog)];
  const keeping = useChange(() => keepPattern(blog, name, address), {
    refresh,
    onDone: (made) => {
      setChosen(made.id);
      setName("");
      setAddress("");
    },
  });
  const removing = useChange((number: number) => removePattern(blog, number), { refresh });
  const pattern = patterns.find(({ id }) => id === chosen) ?? patterns[0];
  const values = [
    ...new Set(
      text
        .split(/\n|,/)
        .map((one) => one.trim())
        .filter(Boolean),
    ),
  ];
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Fill a pattern"
      description="Many feeds differ by one name in their address. Keep the pattern, and give the names."
    >
      <div className="space-y-4">
        {pattern && (
          <>
            <div className="flex items-end gap-2">
              <div className="flex-1">
                <Field label="Pattern" hint={<span className="font-mono">{pattern.address}</span>}>
                  <select
                    className={inputLook}
                    value={pattern.id}
                    onChange={(event) => setChosen(Number(event.target.value))}
                  >
                    {patterns.map((pattern) => (
                      <option key={pattern.id} value={pattern.id}>
                        {pattern.name}
                      </option>
                    ))}
                  </select>
                </Field>
              </div>
              <Button
                small
                className="mb-6"
                busy={removing.isPending}
                onClick={() => removing.mutate(pattern.id)}
              >
                Remove pattern
              </Button>
            </div>
            <Field
              label={`Values for ${pattern.place}`}
              hint={
                values[0]
                  ? `The first address: ${filled(pattern, values[0])}`
                  : "One a line, or with commas between."
              }
            >
              <textarea
                rows={4}
                className={inputLook}
                value={text}
                onChange={(event) => setText(event.target.value)}
              />
            </Field>
            <Button
              look="primary"
              disabled={!values.length}
              onClick={() => onFill(values.map((value) => filled(pattern, value)))}
            >
              Take {plural(values.length, "address", "addresses")}
            </Button>
          </>
        )}
        <form
          className="space-y-3 border-t border-line pt-3"
          onSubmit={(event) => {
            event.preventDefault();
            keeping.mutate();
          }}
        >
          <h3 className="font-semibold">New pattern</h3>
          <Field label="Its name">
            <input
              className={inputLook}
              value={name}
              maxLength={100}
              onChange={(event) => setName(event.target.value)}
            />
          </Field>
          <Field
            label="Address with the name in braces"
            error={faultAt(keeping.error, "address")}
            hint="https://film.example/feed?channel={channel}"
          >
            <input
              className={`${inputLook} font-mono text-xs`}
              value={address}
              spellCheck={false}
              onChange={(event) => setAddress(event.target.value)}
            />
          </Field>
          <FormError error={keeping.error ?? removing.error} fields={["address"]} />
          <Button type="submit" busy={keeping.isPending} disabled={!name.trim() || !address.trim()}>
            Keep the pattern
          </Button>
        </form>
      </div>
    </Dialog>
  );
}
