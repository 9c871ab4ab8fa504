import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { makeService, readyServicesQuery, type Service, saveService, servicesQuery } from "@/api/services";
import { EditNotices } from "@/components/editing/EditNotices";
import { useEdited } from "@/components/editing/useEdited";
import type { Version } from "@/lib/editing/document";
import { Button } from "@/ui/Button";
import { Dialog, DialogClose } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";
import { ServiceFields } from "./ServiceFields";
import { bodyOf, describedBy, faultOfRest, type Written, writtenOf } from "./written";

const UNSAVED =
  "The description is kept as a draft in this browser. The key is not: type it again when you come back.";
const FORMS: Record<string, string> = {
  list: "A translation service that takes a list of texts",
  one: "A translation service that takes one text",
  job: "A translation service that answers later",
  chat: "A chat model, here or elsewhere",
};

interface ServiceDialogProps {
  blog: string;
  /** The service to change; none for a new one. */
  service: Service | null;
  onClose: () => void;
}

function versionOf(service: Service): Version<Written> {
  return { number: service.version, value: writtenOf(service) };
}

/** A language service: its address, key, description and limits. */
export function ServiceDialog({ blog, service, onClose }: ServiceDialogProps) {
  const tell = useTell();
  const queries = useQueryClient();
  const ready = useQuery(readyServicesQuery).data ?? [];
  const saved = useMemo(() => {
    if (service) return versionOf(service);
    const none = { name: "", address: "", model: "", body: "", answer: "", rest: "{}", secret: "" };
    return { number: 0, value: { ...none, most_a_day: null, price: "", currency: "" } };
  }, [service]);
  const edited = useEdited<Written, Service>({
    document: `service ${blog}/${service?.key ?? "new"}`,
    saved,
    forDisk: (written) => ({ ...written, secret: "" }),
    save: (written, version) => {
      const body = bodyOf(written);
      return service ? saveService(blog, service.key, { ...body, version }) : makeService(blog, body);
    },
    versionOf,
    fetchLatest: async () => {
      const all = await queries.fetchQuery({ ...servicesQuery(blog), staleTime: 0 });
      const found = all.services.find(({ key }) => key === service?.key);
      if (!found) throw new Error("The service was removed.");
      return versionOf(found);
    },
    refresh: [keys.services(blog)],
    onSaved: (made) => {
      tell(`“${made.name}” is saved. Try it with a sentence.`, { tone: "good" });
      onClose();
    },
  });
  const { now, error } = edited;
  const set = (part: Partial<Written>) => edited.edit((before) => ({ ...before, ...part }));
  const faulty = faultOfRest(now.rest);
  return (
    <Dialog
      open
      onOpenChange={onClose}
      unsaved={edited.changed ? UNSAVED : undefined}
      title={service ? `Change “${service.name}”` : "New language service"}
      description="Texts that rules ask for are sent to it, never addresses. Its answers are checked before they are used."
    >
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          edited.save();
        }}
      >
        <EditNotices
          edited={edited}
          what="the service"
          fields={["name", "address", "body", "answer", "rest", "secret"]}
        />
        {!service && (
          <Field label="Begin with" hint="Its address, and what differs in your service, you change below.">
            <select
              className={inputLook}
              value=""
              onChange={(event) => {
                const chosen = ready.find(({ key }) => key === event.target.value);
                if (chosen) set(describedBy(chosen.document));
              }}
            >
              <option value="">Choose a form</option>
              {ready.map(({ key }) => (
                <option key={key} value={key}>
                  {FORMS[key] ?? key}
                </option>
              ))}
            </select>
          </Field>
        )}
        <ServiceFields
          written={now}
          isNew={!service}
          fault={(path) => (path === "document.rest" && faulty) || faultAt(error, path)}
          onChange={set}
        />
        {error && (
          <p role="alert" className="text-madder">
            {error.message}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <DialogClose asChild>
            <Button>Cancel</Button>
          </DialogClose>
          <Button
            type="submit"
            look="primary"
            busy={edited.saving.state === "sending"}
            disabled={!now.name.trim() || !now.address.trim() || !!faulty || edited.conflict.theirs !== null}
          >
            Save
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
