import clsx from "clsx";
import { EyeOff, Trash2 } from "lucide-react";
import type { ReactNode } from "react";

interface RuleCardProps {
  children: ReactNode;
  handles?: ReactNode;
  footer?: ReactNode;
  edited?: boolean;
  on?: boolean;
  name: string;
  /** The id of the rule, by which a fault finds it. */
  rule?: string;
  fault?: string | undefined;
  onToggle?: (() => void) | undefined;
  onRemove?: (() => void) | undefined;
}

/** One rule: its sentence, what it does to the proof, and the handles to move it, switch it off or remove it. */
export function RuleCard({
  children,
  handles,
  footer,
  edited = false,
  on = true,
  name,
  rule,
  fault,
  onToggle,
  onRemove,
}: RuleCardProps) {
  return (
    <fieldset
      aria-label={name}
      data-rule={rule}
      className={clsx(
        "group min-w-0 rounded-lg border bg-sheet px-2.5 py-2",
        fault ? "border-madder" : edited ? "border-plum shadow-[0_0_0_3px_var(--plum-wash)]" : "border-line",
        !on && "border-dashed bg-chalk",
      )}
    >
      <div className="leading-[1.7] [overflow-wrap:anywhere]">{children}</div>
      {fault && (
        <p role="alert" className="mt-1 font-medium text-madder">
          {fault}
        </p>
      )}
      {(handles || footer || onToggle || onRemove) && (
        <div className="mt-1 flex min-h-5 items-center gap-1 text-[11.5px] text-ink3">
          <div className="flex min-w-0 flex-1 flex-wrap items-center gap-x-2">
            {handles}
            {on ? footer : <span className="text-ink2">switched off</span>}
          </div>
          {onToggle && (
            <button
              type="button"
              aria-pressed={!on}
              title={`${on ? "Switch off" : "Switch on"} ${name}`}
              className="inline-flex size-6 items-center justify-center hover:text-ink"
              onClick={onToggle}
            >
              <EyeOff size={13} />
              <span className="sr-only">
                {on ? "Switch off" : "Switch on"} {name}
              </span>
            </button>
          )}
          {onRemove && (
            <button
              type="button"
              title={`Remove ${name}`}
              className="inline-flex size-6 items-center justify-center hover:text-madder"
              onClick={onRemove}
            >
              <Trash2 size={13} />
              <span className="sr-only">Remove {name}</span>
            </button>
          )}
        </div>
      )}
    </fieldset>
  );
}
