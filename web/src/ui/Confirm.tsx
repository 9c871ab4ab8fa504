import { AlertDialog } from "radix-ui";
import type { ReactNode } from "react";
import { buttonLook } from "./Button";
import { returningFocus } from "./focus";

interface ConfirmProps {
  trigger: ReactNode;
  title: string;
  text: string;
  action: string;
  onConfirm: () => void;
}

/** Asks before something is lost. */
export function Confirm({ trigger, title, text, action, onConfirm }: ConfirmProps) {
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger asChild>{trigger}</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <AlertDialog.Content
          onCloseAutoFocus={returningFocus}
          className="fixed top-[22vh] left-1/2 z-50 w-[420px] max-w-[94vw] -translate-x-1/2 rounded-xl border border-line bg-sheet p-5 shadow-xl"
        >
          <AlertDialog.Title className="text-lg">{title}</AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-ink2">{text}</AlertDialog.Description>
          <div className="mt-5 flex justify-end gap-2">
            <AlertDialog.Cancel className={buttonLook("plain")}>Cancel</AlertDialog.Cancel>
            <AlertDialog.Action className={buttonLook("danger")} onClick={onConfirm}>
              {action}
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
