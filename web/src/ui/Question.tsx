import { AlertDialog } from "radix-ui";
import { buttonLook } from "./Button";
import { returningFocus } from "./focus";

interface QuestionProps {
  title: string;
  text: string;
  stay: string;
  go: string;
  onStay: () => void;
  onGo: () => void;
}

/** A question that has just come up: stay, or go on. */
export function Question({ title, text, stay, go, onStay, onGo }: QuestionProps) {
  return (
    <AlertDialog.Root open onOpenChange={(open) => !open && onStay()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-50 bg-black/40" />
        <AlertDialog.Content
          onCloseAutoFocus={returningFocus}
          className="fixed top-[22vh] left-1/2 z-50 w-[420px] max-w-[94vw] -translate-x-1/2 rounded-xl border border-line bg-sheet p-5 shadow-xl"
        >
          <AlertDialog.Title className="text-lg">{title}</AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-ink2">{text}</AlertDialog.Description>
          <div className="mt-5 flex justify-end gap-2">
            <AlertDialog.Cancel className={buttonLook("primary")}>{stay}</AlertDialog.Cancel>
            <AlertDialog.Action className={buttonLook("plain")} onClick={onGo}>
              {go}
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
