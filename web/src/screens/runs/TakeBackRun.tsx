import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { keys } from "@/api/keys";
import { type Run, runPostsQuery, takeBackRun } from "@/api/runs";
import { useChange } from "@/api/useChange";
import { ErrorNote } from "@/components/ErrorNote";
import { FormError } from "@/components/FormError";
import { Loading } from "@/components/Loading";
import { WhatGoes } from "@/screens/posts/WhatGoes";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { useTell } from "@/ui/Toasts";

/** Undoes a whole run after saying what it removes. */
export function TakeBackRun({ blog, run, onClose }: { blog: string; run: Run; onClose: () => void }) {
  const tell = useTell();
  const [spare, setSpare] = useState(true);
  const counted = useQuery(runPostsQuery(blog, run.id));
  const taking = useChange(() => takeBackRun(blog, run.id, spare), {
    refresh: [keys.run(blog), keys.runs(blog), keys.posts(blog), keys.campaigns(blog), keys.proof(blog)],
    onDone: () => {
      tell("The run is taken back. Its posts are in the bin.");
      onClose();
    },
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Take this run back?"
      description="Its posts go into the bin without markers, and all its items are undecided again: the next run decides them by the rules saved then."
    >
      {counted.error && <ErrorNote error={counted.error} onRetry={counted.refetch} />}
      {counted.isPending && <Loading what="what would go" />}
      {counted.data && <WhatGoes touched={counted.data} spare={spare} onSpare={setSpare} />}
      <FormError error={taking.error} />
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          look="danger"
          disabled={!counted.data}
          busy={taking.isPending}
          onClick={() => taking.mutate()}
        >
          Take it back
        </Button>
      </div>
    </Dialog>
  );
}
