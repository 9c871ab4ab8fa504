import clsx from "clsx";
import { X } from "lucide-react";
import { Dialog as Primitive } from "radix-ui";
import { type ReactNode, useState } from "react";
import { focusInside, returningFocus } from "./focus";
import { Question } from "./Question";

interface DialogProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  description?: string;
  /** What is said of edits that are not saved, before it closes; nothing where there are none. */
  unsaved?: string | undefined;
  /** Room for two columns. */
  wide?: boolean;
  children: ReactNode;
}

/** A button inside a dialog that closes it, after a question where edits are not saved. */
export const DialogClose = Primitive.Close;

/** Escape in a field that restores its text belongs to the field. */
function escapeOfField(event: { target: EventTarget | null }): boolean {
  return Boolean((event.target as Element).closest?.("[data-own-escape]"));
}

export function Dialog({
  open,
  onOpenChange,
  title,
  description,
  unsaved,
  wide = false,
  children,
}: DialogProps) {
  const [asking, setAsking] = useState(false);
  function change(next: boolean) {
    if (!next && unsaved) setAsking(true);
    else onOpenChange(next);
  }
  return (
    <Primitive.Root open={open} onOpenChange={change}>
      <Primitive.Portal>
        <Primitive.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Primitive.Content
          onOpenAutoFocus={focusInside}
          onCloseAutoFocus={returningFocus}
          onEscapeKeyDown={(event) => {
            if (escapeOfField(event)) event.preventDefault();
          }}
          onKeyDown={(event) => {
            // A toast would take the first Escape; the dialog closes as well.
            if (event.key !== "Escape" || event.defaultPrevented || escapeOfField(event)) return;
            if (event.currentTarget.contains(event.target as Node)) change(false);
          }}
          {...(description ? {} : { "aria-describedby": undefined })}
          className={clsx(
            "fixed left-1/2 z-50 max-w-[94vw] -translate-x-1/2 overflow-auto rounded-xl border border-line bg-sheet p-5 shadow-xl",
            wide ? "top-[8vh] max-h-[84vh] w-[1040px]" : "top-[18vh] max-h-[78vh] w-[460px]",
          )}
        >
          <Primitive.Title className="pr-8 text-lg">{title}</Primitive.Title>
          {description && (
            <Primitive.Description className="mt-1 text-ink2">{description}</Primitive.Description>
          )}
          <div className="mt-4">{children}</div>
          {/* Last, so that the focus begins in what the dialog is for. */}
          <Primitive.Close
            aria-label="Close"
            className="absolute top-4 right-4 inline-flex size-7 items-center justify-center rounded text-ink3 hover:bg-sunk hover:text-ink"
          >
            <X size={15} />
          </Primitive.Close>
          {asking && (
            <Question
              title="Close with edits that are not saved?"
              text={unsaved ?? ""}
              stay="Stay"
              go="Close"
              onStay={() => setAsking(false)}
              onGo={() => onOpenChange(false)}
            />
          )}
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}
