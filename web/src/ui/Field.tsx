import type { ReactNode } from "react";

export const inputLook =
  "w-full rounded-[7px] border border-line bg-sheet px-2.5 py-1.5 text-ink aria-invalid:border-madder";

interface FieldProps {
  label: string;
  hint?: ReactNode;
  error?: string | undefined;
  children: ReactNode;
}

/** A label with its control, a hint, and what is wrong with what was typed. */
export function Field({ label, hint, error, children }: FieldProps) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control comes in as the child
    <label className="block">
      <span className="mb-1 block font-semibold">{label}</span>
      {children}
      {hint && !error && <span className="mt-1 block text-xs text-ink3">{hint}</span>}
      {error && (
        <span role="alert" className="mt-1 block text-xs font-medium text-madder">
          {error}
        </span>
      )}
    </label>
  );
}
