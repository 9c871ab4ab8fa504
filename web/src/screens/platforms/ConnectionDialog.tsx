import { useState } from "react";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { type Connection, makeConnection, type Platform, saveConnection } from "@/api/platforms";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";
import { stateOf } from "./states";

interface ConnectionDialogProps {
  blog: string;
  platforms: readonly Platform[];
  /** The connection to change; none for a new one. */
  connection: Connection | null;
  start: string;
  onClose: () => void;
}

/** Credentials for a platform, stored encrypted and checked immediately. */
export function ConnectionDialog({ blog, platforms, connection, start, onClose }: ConnectionDialogProps) {
  const tell = useTell();
  const [platformKey, setPlatformKey] = useState(connection?.platform ?? (start || platforms[0]?.key) ?? "");
  const [name, setName] = useState(connection?.name ?? "");
  const [address, setAddress] = useState(connection?.address ?? "");
  const [fields, setFields] = useState<Record<string, string>>({});
  const platform = platforms.find(({ key }) => key === platformKey);
  const body = { name: name || (platform?.name ?? ""), address, fields };
  const saving = useChange(
    () =>
      connection
        ? saveConnection(blog, connection.key, body)
        : makeConnection(blog, { platform: platformKey, ...body }),
    {
      refresh: [keys.connections(blog)],
      onDone: (made) => {
        const good = made.state === "valid" || made.state === "unchecked";
        tell(`“${made.name}” is saved: ${stateOf(made).label}.`, { tone: good ? "good" : "bad" });
        onClose();
      },
    },
  );
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={connection ? `Change “${connection.name}”` : "New connection"}
      description="Secrets are kept encrypted, go to the host of this address alone, and are never shown again."
    >
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          saving.mutate();
        }}
      >
        {!connection && (
          <Field label="Platform" hint={platform?.purpose}>
            <select
              className={inputLook}
              value={platformKey}
              onChange={(event) => setPlatformKey(event.target.value)}
            >
              {platforms.map((platform) => (
                <option key={platform.key} value={platform.key}>
                  {platform.name}
                </option>
              ))}
            </select>
          </Field>
        )}
        <Field label="Name" error={faultAt(saving.error, "name")}>
          <input
            className={inputLook}
            value={name}
            maxLength={100}
            placeholder={platform?.name}
            onChange={(event) => setName(event.target.value)}
          />
        </Field>
        <Field
          label="Address of its API"
          error={faultAt(saving.error, "address")}
          hint="As the platform tells it to its members."
        >
          <input
            className={`${inputLook} font-mono text-xs`}
            value={address}
            spellCheck={false}
            placeholder="https://api.example/wire"
            onChange={(event) => setAddress(event.target.value)}
          />
        </Field>
        {platform?.secrets.map((secret) => (
          <Field
            key={secret.name}
            label={secret.label}
            error={faultAt(saving.error, `fields.${secret.name}`)}
            hint={connection && secret.hidden ? "Leave it empty to keep the one that is known." : undefined}
          >
            <input
              type={secret.hidden ? "password" : "text"}
              className={inputLook}
              autoComplete="off"
              placeholder={connection && secret.hidden ? "kept" : ""}
              value={fields[secret.name] ?? ""}
              onChange={(event) => setFields({ ...fields, [secret.name]: event.target.value })}
            />
          </Field>
        ))}
        <FormError error={saving.error} fields={["name", "address", "fields"]} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" busy={saving.isPending} disabled={!address.trim()}>
            Save and check
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
