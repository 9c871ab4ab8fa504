import clsx from "clsx";
import { X } from "lucide-react";
import { Dialog as Primitive } from "radix-ui";
import type { ReactNode } from "react";
import { focusInside, returningFocus } from "./focus";

interface DialogProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  description?: string;
  /** Room for two columns. */
  wide?: boolean;
  children: ReactNode;
}

/** Escape in a field that restores its text belongs to the field. */
function escapeOfField(event: { target: EventTarget | null }): boolean {
  return Boolean((event.target as Element).closest?.("[data-own-escape]"));
}

export function Dialog({ open, onOpenChange, title, description, wide = false, children }: DialogProps) {
  return (
    <Primitive.Root open={open} onOpenChange={onOpenChange}>
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
            if (event.currentTarget.contains(event.target as Node)) onOpenChange(false);
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
        </Primitive.Content>
      </Primitive.Portal>
    </Primitive.Root>
  );
}
