import { AlertDialog } from "radix-ui";
import { useEffect } from "react";
import { useBlocker } from "react-router";
import { buttonLook } from "@/ui/Button";
import { returningFocus } from "@/ui/focus";

interface LeaveGuardProps {
  /** Whether there is anything to lose. */
  when: boolean;
  text: string;
}

/** Asks before a person leaves a screen with edits that are not saved: by a link, Back, a reload, a closed tab. */
export function LeaveGuard({ when, text }: LeaveGuardProps) {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => when && currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    if (!when) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [when]);
  if (blocker.state !== "blocked") return null;
  return (
    <AlertDialog.Root open onOpenChange={(open) => !open && blocker.reset()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <AlertDialog.Content
          onCloseAutoFocus={returningFocus}
          className="fixed top-[22vh] left-1/2 z-50 w-[420px] max-w-[94vw] -translate-x-1/2 rounded-xl border border-line bg-sheet p-5 shadow-xl"
        >
          <AlertDialog.Title className="text-lg">Leave with edits that are not saved?</AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-ink2">{text}</AlertDialog.Description>
          <div className="mt-5 flex justify-end gap-2">
            <AlertDialog.Cancel className={buttonLook("primary")}>Stay</AlertDialog.Cancel>
            <AlertDialog.Action className={buttonLook("plain")} onClick={() => blocker.proceed()}>
              Leave
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
