import { AlertDialog } from "radix-ui";
import type { ReactNode } from "react";
import { returningFocus } from "./focus";

interface QuestionBoxProps {
  title: string;
  text: string;
  /** The answers. */
  children: ReactNode;
}

/** The box of a question that must be answered. */
export function QuestionBox({ title, text, children }: QuestionBoxProps) {
  return (
    <AlertDialog.Portal>
      <AlertDialog.Overlay className="fixed inset-0 z-50 bg-black/40" />
      <AlertDialog.Content
        onCloseAutoFocus={returningFocus}
        className="fixed top-[22vh] left-1/2 z-50 w-[420px] max-w-[94vw] -translate-x-1/2 rounded-xl border border-line bg-sheet p-5 shadow-xl"
      >
        <AlertDialog.Title className="text-lg">{title}</AlertDialog.Title>
        <AlertDialog.Description className="mt-1 text-ink2">{text}</AlertDialog.Description>
        <div className="mt-5 flex justify-end gap-2">{children}</div>
      </AlertDialog.Content>
    </AlertDialog.Portal>
  );
}
