import { AlertDialog } from "radix-ui";
import type { ReactNode } from "react";
import { buttonLook } from "./Button";
import { QuestionBox } from "./QuestionBox";

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
      <QuestionBox title={title} text={text}>
        <AlertDialog.Cancel className={buttonLook("plain")}>Cancel</AlertDialog.Cancel>
        <AlertDialog.Action className={buttonLook("danger")} onClick={onConfirm}>
          {action}
        </AlertDialog.Action>
      </QuestionBox>
    </AlertDialog.Root>
  );
}
