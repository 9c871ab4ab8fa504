import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { type Access, accessQuery, changeAccess } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Loading } from "@/components/Loading";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";
import { NumberField } from "@/ui/NumberField";
import { useTell } from "@/ui/Toasts";
import { HeaderRows } from "./HeaderRows";

interface AccessDialogProps {
  blog: string;
  source: string;
  onClose: () => void;
}

/** Access to a source: headers, credentials, certificate, and pause. */
export function AccessDialog({ blog, source, onClose }: AccessDialogProps) {
  const access = useQuery(accessQuery(blog, source));
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="How it is asked"
      description="Secrets are kept encrypted. They go to the host of the source alone, and are never shown again."
    >
      {access.isPending && <Loading what="how it is asked" rows={3} />}
      <FormError error={access.error} />
      {access.data && <Form blog={blog} source={source} access={access.data} onClose={onClose} />}
    </Dialog>
  );
}

function Form({ blog, source, access, onClose }: AccessDialogProps & { access: Access }) {
  const tell = useTell();
  const [headers, setHeaders] = useState(access.headers.map((name) => ({ name, value: "", kept: true })));
  const [user, setUser] = useState(access.user);
  const [password, setPassword] = useState("");
  const [anyCertificate, setAnyCertificate] = useState(access.any_certificate);
  const [pause, setPause] = useState(access.pause_ms);
  const [patience, setPatience] = useState(access.patience_s);
  const [tries, setTries] = useState(access.tries);
  const saving = useChange(
    () =>
      changeAccess(blog, source, {
        headers: headers.map(({ name, value }) => ({ name, value })),
        user,
        password,
        any_certificate: anyCertificate,
        pause_ms: pause,
        patience_s: patience,
        tries,
      }),
    {
      refresh: [keys.source(blog, source), keys.sources(blog)],
      onDone: () => {
        tell("Saved. The next reading asks so.");
        onClose();
      },
    },
  );
  const headerFault = faultAt(saving.error, ".name") ?? faultAt(saving.error, ".value");
  return (
    <form
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        saving.mutate();
      }}
    >
      <HeaderRows rows={headers} onChange={setHeaders} error={headerFault} />
      <div className="grid grid-cols-2 gap-3">
        <Field
          label="User name"
          hint="Basic sign-in of a private feed."
          error={faultAt(saving.error, "user")}
        >
          <input
            className={inputLook}
            value={user}
            autoComplete="off"
            onChange={(event) => setUser(event.target.value)}
          />
        </Field>
        <Field label="Password" error={faultAt(saving.error, "password")}>
          <input
            type="password"
            className={inputLook}
            value={password}
            autoComplete="new-password"
            placeholder={access.user ? "kept" : ""}
            onChange={(event) => setPassword(event.target.value)}
          />
        </Field>
      </div>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Pause between requests, in ms"
          hint="To all addresses of its host."
          most={60_000}
          value={pause}
          onChange={setPause}
        />
        <NumberField
          label="Wait for an answer, in seconds"
          hint="0 for 20 seconds, as for all others."
          most={120}
          value={patience}
          onChange={setPatience}
        />
        <NumberField
          label="Tries in one reading"
          hint="Where it does not answer, breaks off or has trouble."
          least={1}
          most={5}
          value={tries}
          onChange={setTries}
        />
      </div>
      <label className="flex gap-2">
        <input
          type="checkbox"
          checked={anyCertificate}
          onChange={(event) => setAnyCertificate(event.target.checked)}
        />
        Accept its certificate although nobody vouches for it
      </label>
      {anyCertificate && (
        <p className="text-ochre">
          Whoever sits between us and the source can then read and change what it sends.
        </p>
      )}
      <FormError error={saving.error} fields={["user", "password", ".name", ".value"]} />
      <div className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button type="submit" look="primary" busy={saving.isPending}>
          Save
        </Button>
      </div>
    </form>
  );
}
