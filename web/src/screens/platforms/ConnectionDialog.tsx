import { useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import {
  type Connection,
  connectionsQuery,
  makeConnection,
  type Platform,
  saveConnection,
} from "@/api/platforms";
import { EditNotices } from "@/components/editing/EditNotices";
import { useEdited } from "@/components/editing/useEdited";
import type { Version } from "@/lib/editing/document";
import { Button } from "@/ui/Button";
import { Dialog, DialogClose } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";
import { stateOf } from "./states";

const UNSAVED =
  "Name and address are kept as a draft in this browser. Secrets are not: type them again when you come back.";

interface ConnectionDialogProps {
  blog: string;
  platforms: readonly Platform[];
  /** The connection to change; none for a new one. */
  connection: Connection | null;
  start: string;
  /** Is given the connection that was saved, where there is one. */
  onClose: (made?: Connection) => void;
}

interface Credentials {
  platform: string;
  name: string;
  address: string;
  fields: Record<string, string>;
}

function versionOf({ version, platform, name, address }: Connection): Version<Credentials> {
  return { number: version, value: { platform, name, address, fields: {} } };
}

/** Whether the platform has accepted a connection, as far as is known. */
function isAccepted({ state }: Connection): boolean {
  return state === "valid" || state === "unchecked";
}

/** Credentials for a platform, stored encrypted and checked immediately. */
export function ConnectionDialog({
  blog,
  platforms,
  connection: given,
  start,
  onClose,
}: ConnectionDialogProps) {
  const tell = useTell();
  const queries = useQueryClient();
  // One that the platform does not accept is stored all the same, and the dialog stays to correct it.
  const [connection, setConnection] = useState(given);
  const first = (start || platforms[0]?.key) ?? "";
  const saved = useMemo(
    () =>
      given ? versionOf(given) : { number: 0, value: { platform: first, name: "", address: "", fields: {} } },
    [given, first],
  );
  const edited = useEdited<Credentials, Connection>({
    document: `connection ${blog}/${given?.key ?? `new ${first}`}`,
    saved,
    forDisk: (credentials) => ({ ...credentials, fields: {} }),
    save: ({ platform, name, address, fields }, version) => {
      const body = { name: name || (known(platform)?.name ?? ""), address, fields };
      return connection
        ? saveConnection(blog, connection.key, { ...body, version })
        : makeConnection(blog, { platform, ...body });
    },
    versionOf,
    fetchLatest: async () => {
      const all = await queries.fetchQuery({ ...connectionsQuery(blog), staleTime: 0 });
      const found = all.find(({ key }) => key === connection?.key);
      if (!found) throw new Error("The connection was removed.");
      return versionOf(found);
    },
    refresh: [keys.connections(blog)],
    onSaved: (made) => {
      setConnection(made);
      if (!isAccepted(made)) return;
      tell(`“${made.name}” is saved: ${stateOf(made).label}.`, { tone: "good" });
      onClose(made);
    },
  });
  const known = (key: string) => platforms.find((one) => one.key === key);
  const { now, error } = edited;
  const set = (part: Partial<Credentials>) => edited.edit((before) => ({ ...before, ...part }));
  const platform = known(now.platform);
  const refused = connection && connection !== given && !isAccepted(connection) && !edited.changed;
  return (
    <Dialog
      open
      onOpenChange={() => onClose(connection ?? undefined)}
      unsaved={edited.changed ? UNSAVED : undefined}
      title={connection ? `Change “${connection.name}”` : "New connection"}
      description="Secrets are kept encrypted, go to the host of this address alone, and are never shown again."
    >
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          // It may stand in another form, which React would submit as well.
          event.stopPropagation();
          edited.save();
        }}
      >
        <EditNotices edited={edited} what="the connection" fields={["name", "address", "fields"]} />
        {refused && (
          <p role="alert" className="rounded-md bg-madder-wash p-2 text-madder">
            It is saved, but the platform does not accept it: {stateOf(connection).label}. {connection.detail}{" "}
            Correct it here, then save again.
          </p>
        )}
        {!connection && (
          <Field label="Platform" hint={platform?.purpose}>
            <select
              className={inputLook}
              value={now.platform}
              onChange={(event) => set({ platform: event.target.value, fields: {} })}
            >
              {platforms.map((platform) => (
                <option key={platform.key} value={platform.key}>
                  {platform.name}
                </option>
              ))}
            </select>
          </Field>
        )}
        <Field label="Name" error={faultAt(error, "name")}>
          <input
            className={inputLook}
            value={now.name}
            maxLength={100}
            placeholder={platform?.name}
            onChange={(event) => set({ name: event.target.value })}
          />
        </Field>
        <Field
          label="Address of its API"
          error={faultAt(error, "address")}
          hint="As the platform tells it to its members."
        >
          <input
            className={`${inputLook} font-mono text-xs`}
            value={now.address}
            spellCheck={false}
            placeholder="https://api.example/wire"
            onChange={(event) => set({ address: event.target.value })}
          />
        </Field>
        {platform?.secrets.map((secret) => (
          <Field
            key={secret.name}
            label={secret.label}
            error={faultAt(error, `fields.${secret.name}`)}
            hint={connection && secret.hidden ? "Leave it empty to keep the one that is known." : undefined}
          >
            <input
              type={secret.hidden ? "password" : "text"}
              className={inputLook}
              autoComplete="off"
              placeholder={connection && secret.hidden ? "kept" : ""}
              value={now.fields[secret.name] ?? ""}
              onChange={(event) => set({ fields: { ...now.fields, [secret.name]: event.target.value } })}
            />
          </Field>
        ))}
        <div className="flex justify-end gap-2">
          <DialogClose asChild>
            <Button>Cancel</Button>
          </DialogClose>
          <Button
            type="submit"
            look="primary"
            busy={edited.saving.state === "sending"}
            disabled={!now.address.trim() || edited.conflict.theirs !== null}
          >
            Save and check
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
