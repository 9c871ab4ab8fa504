import clsx from "clsx";
import type { ButtonHTMLAttributes } from "react";

type Look = "plain" | "primary" | "quiet" | "danger";

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: Look;
  small?: boolean;
  busy?: boolean;
}

const LOOKS: Record<Look, string> = {
  plain: "border border-line bg-sheet text-ink hover:bg-sunk",
  primary:
    "border border-verd bg-verd text-on-verd hover:bg-verd-deep hover:border-verd-deep dark:hover:bg-verd",
  quiet: "border border-transparent text-ink2 hover:bg-sunk hover:text-ink",
  danger: "border border-line bg-sheet text-madder hover:bg-madder-wash",
};

export function buttonLook(look: Look = "plain", small = false): string {
  return clsx(
    "inline-flex items-center justify-center gap-1.5 rounded-[7px] font-semibold whitespace-nowrap",
    "disabled:cursor-not-allowed disabled:opacity-55 aria-disabled:cursor-not-allowed aria-disabled:opacity-55",
    small ? "px-2.5 py-0.5" : "px-3 py-1.5",
    LOOKS[look],
  );
}

/** A busy button does nothing but keeps the focus, which a disabled one would lose. */
export function Button({ look, small, busy, className, type, onClick, ...rest }: ButtonProps) {
  return (
    <button
      {...rest}
      type={type ?? "button"}
      onClick={busy ? (event) => event.preventDefault() : onClick}
      aria-busy={busy || undefined}
      aria-disabled={busy || rest["aria-disabled"]}
      className={clsx(buttonLook(look, small), busy && "animate-pulse", className)}
    />
  );
}
