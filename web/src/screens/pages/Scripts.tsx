import { Button } from "@/ui/Button";
import type { ReaderState } from "./useReader";

/** Whether scripts run before pages are read, and the offer to run them. */
export function Scripts({ state }: { state: ReaderState }) {
  if (state.pages.list?.kind === "scripted" && state.document.list_page.data)
    return (
      <p className="rounded-md bg-verd-wash p-2 text-xs text-verd-deep">
        This page is drawn by scripts. Its list is taken from the data that it carries for them, so they need
        not run.
      </p>
    );
  if (state.pages.list?.kind === "scripted" && !state.rendered)
    return (
      <div className="space-y-2 rounded-md bg-ochre-wash p-2 text-xs text-ochre">
        <p>
          This page is drawn by scripts: without them it is empty. Another page of the site may list the same
          articles; else its scripts can be run on our server before it is read.
        </p>
        <Button small busy={state.opening.isPending} onClick={state.render}>
          Read it after its scripts have run
        </Button>
        {state.opening.error && <p role="alert">{state.opening.error.message}</p>}
      </div>
    );
  if (!state.rendered) return null;
  return (
    <label className="flex items-start gap-2 text-xs">
      <input type="checkbox" className="mt-0.5" checked onChange={() => state.setRendered(false)} />
      Pages are read after their scripts have run.
    </label>
  );
}
