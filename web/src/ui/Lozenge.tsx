import clsx from "clsx";

export type LozengeKind =
  | "publish"
  | "hold"
  | "draft"
  | "private"
  | "scheduled"
  | "waiting"
  | "refused"
  | "duplicate"
  | "idle";

const COLOURS: Record<LozengeKind, string> = {
  publish: "text-verd",
  hold: "text-ochre-mark",
  draft: "text-ink3",
  private: "text-verd",
  scheduled: "text-verd",
  waiting: "text-ink3",
  refused: "text-madder",
  duplicate: "text-indigo",
  idle: "text-ink3",
};
const OUTLINE = "M6 1 11 6 6 11 1 6Z";

/** A mark with a shape for each meaning, so that colour is not needed. */
export function Lozenge({
  kind,
  label,
  className,
}: {
  kind: LozengeKind;
  label?: string;
  className?: string;
}) {
  return (
    <svg
      viewBox="0 0 12 12"
      width="12"
      height="12"
      className={clsx("inline-block shrink-0", COLOURS[kind], className)}
      fill="none"
      stroke="currentColor"
      strokeWidth="1.3"
      role={label ? "img" : undefined}
      aria-label={label}
      aria-hidden={label ? undefined : true}
    >
      {kind === "publish" && <path d={OUTLINE} fill="currentColor" />}
      {kind === "hold" && (
        <>
          <path d={OUTLINE} />
          <path d="M6 1 1 6 6 11Z" fill="currentColor" />
        </>
      )}
      {kind === "draft" && <path d={OUTLINE} strokeDasharray="2 1.4" />}
      {kind === "private" && (
        <>
          <path d={OUTLINE} />
          <path d="M6 4 8 6 6 8 4 6Z" fill="currentColor" />
        </>
      )}
      {kind === "scheduled" && (
        <>
          <path d={OUTLINE} />
          <path d="M6 3.4V6H8.4" />
        </>
      )}
      {kind === "waiting" && (
        <>
          <path d={OUTLINE} strokeDasharray="1 1.2" />
          <path d="M4 6H8" />
        </>
      )}
      {kind === "refused" && <path d={OUTLINE} />}
      {kind === "idle" && <path d={OUTLINE} opacity="0.5" />}
      {kind === "duplicate" && (
        <>
          <path d="M4.4 2.2 8.2 6 4.4 9.8.6 6Z" fill="currentColor" />
          <path d="M7.6 2.2 11.4 6 7.6 9.8 3.8 6Z" />
        </>
      )}
    </svg>
  );
}
