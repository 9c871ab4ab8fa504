import { useState } from "react";
import { makeToken } from "@/api/account";
import { keys } from "@/api/keys";
import type { Role } from "@/api/people";
import { useChange } from "@/api/useChange";
import { CopyText } from "@/components/CopyText";
import { FormError } from "@/components/FormError";
import { ROLES } from "@/lib/roles";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

const DAYS = [
  { value: 7, label: "a week" },
  { value: 30, label: "30 days" },
  { value: 90, label: "90 days" },
  { value: 365, label: "a year" },
];

export function TokenDialog({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState("");
  const [role, setRole] = useState<Role>("viewer");
  const [days, setDays] = useState(90);
  const making = useChange(() => makeToken({ name, role, days }), { refresh: [keys.tokens()] });
  if (making.data)
    return (
      <Dialog
        open
        onOpenChange={onClose}
        title="Copy the key now"
        description="It is shown only this once. Whoever has it can act for you."
      >
        <CopyText label="Key" text={making.data.key} />
        <pre className="mt-3 overflow-auto rounded-lg bg-sunk p-3 font-mono text-xs">
          {`curl -H "Authorization: Bearer ${making.data.key.slice(0, 16)}…" ${window.location.origin}/api/blogs`}
        </pre>
        <div className="mt-4 flex justify-end">
          <Button look="primary" onClick={onClose}>
            Done
          </Button>
        </div>
      </Dialog>
    );
  return (
    <Dialog open onOpenChange={onClose} title="New token">
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          making.mutate();
        }}
      >
        <Field label="Name" hint="What uses it, for example: nightly export">
          <input
            className={inputLook}
            value={name}
            required
            maxLength={80}
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
        <div className="grid grid-cols-2 gap-4">
          <Field label="May act as, at most">
            <select
              className={inputLook}
              value={role}
              onChange={(event) => setRole(event.target.value as Role)}
            >
              {ROLES.map((role) => (
                <option key={role.value} value={role.value}>
                  {role.label}
                </option>
              ))}
            </select>
          </Field>
          <Field label="Ends after">
            <select
              className={inputLook}
              value={days}
              onChange={(event) => setDays(Number(event.target.value))}
            >
              {DAYS.map((day) => (
                <option key={day.value} value={day.value}>
                  {day.label}
                </option>
              ))}
            </select>
          </Field>
        </div>
        <FormError error={making.error} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" busy={making.isPending}>
            Make the token
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
