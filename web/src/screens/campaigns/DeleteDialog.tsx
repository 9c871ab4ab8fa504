import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { deleteCampaign, goesWithItQuery } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Loading } from "@/components/Loading";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";

interface DeleteDialogProps {
  blog: string;
  slug: string;
  name: string;
  onClose: () => void;
}

/** Deletes a campaign after saying what goes with it and asking for its name. */
export function DeleteDialog({ blog, slug, name, onClose }: DeleteDialogProps) {
  const tell = useTell();
  const [typed, setTyped] = useState("");
  const going = useQuery(goesWithItQuery(blog, slug));
  const deleting = useChange(() => deleteCampaign(blog, slug), {
    refresh: [keys.campaigns(blog), keys.posts(blog), keys.runs(blog), keys.today(blog)],
    onDone: () => {
      tell(`“${name}” is deleted.`);
      onClose();
    },
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`Delete “${name}”?`}
      description="This cannot be taken back. To keep its posts, leave it in the archive."
    >
      {going.isPending && <Loading what="what goes with it" rows={2} />}
      <FormError error={going.error} />
      {going.data && (
        <>
          <p>These go with it:</p>
          <ul className="my-2 list-disc pl-5">
            <li>
              {plural(going.data.posts, "post")}, {going.data.on_the_blog} of them on the blog now
            </li>
            <li>{plural(going.data.comments, "comment")} of readers</li>
            <li>
              {plural(going.data.decisions, "decision")} of {plural(going.data.runs, "run")}
            </li>
            <li>{plural(going.data.revisions, "revision")} of its rules</li>
          </ul>
          <p className="mb-3 text-ink2">The captured items stay: they belong to their sources.</p>
          <Field label={`Type its name: ${name}`}>
            <input className={inputLook} value={typed} onChange={(event) => setTyped(event.target.value)} />
          </Field>
        </>
      )}
      <FormError error={deleting.error} />
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          look="danger"
          disabled={typed.trim() !== name}
          busy={deleting.isPending}
          onClick={() => deleting.mutate()}
        >
          Delete for good
        </Button>
      </div>
    </Dialog>
  );
}
