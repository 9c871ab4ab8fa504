import clsx from "clsx";
import { Copy, EyeOff, type LucideIcon, PencilLine, Trash2 } from "lucide-react";
import { type ReactNode, type Ref, useRef, useState } from "react";
import { useFocusAfter } from "@/ui/useFocusAfter";
import { RuleTitle } from "./RuleTitle";

interface RuleCardProps {
  children: ReactNode;
  handles?: ReactNode;
  footer?: ReactNode;
  edited?: boolean;
  on?: boolean;
  name: string;
  /** The id of the rule, by which a fault finds it. */
  rule?: string;
  /** A person's name for the rule; empty for none. */
  title?: string;
  fault?: string | undefined;
  onTitle?: ((title: string) => void) | undefined;
  onCopy?: (() => void) | undefined;
  onToggle?: (() => void) | undefined;
  onRemove?: (() => void) | undefined;
}

interface CardButtonProps {
  label: string;
  icon: LucideIcon;
  pressed?: boolean;
  danger?: boolean;
  ref?: Ref<HTMLButtonElement>;
  onClick: () => void;
}

function CardButton({ label, icon: Icon, pressed, danger = false, ref, onClick }: CardButtonProps) {
  return (
    <button
      ref={ref}
      type="button"
      aria-pressed={pressed}
      title={label}
      className={clsx(
        "inline-flex size-6 shrink-0 items-center justify-center",
        danger ? "hover:text-madder" : "hover:text-ink",
      )}
      onClick={onClick}
    >
      <Icon size={13} />
      <span className="sr-only">{label}</span>
    </button>
  );
}

/** One rule: title, sentence, effect, and its buttons. */
export function RuleCard(props: RuleCardProps) {
  const { children, handles, footer, edited = false, on = true, name, rule, title = "", fault } = props;
  const { onTitle, onCopy, onToggle, onRemove } = props;
  const [naming, setNaming] = useState(false);
  const renames = useRef<HTMLButtonElement>(null);
  const focusButton = useFocusAfter(renames);
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
      {onTitle && (
        <RuleTitle
          title={title}
          name={name}
          editing={naming}
          onChange={onTitle}
          onDone={(byKey) => {
            setNaming(false);
            if (byKey) focusButton();
          }}
        />
      )}
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
          {onTitle && (
            <CardButton
              label={title ? `Rename ${name}` : `Name ${name}`}
              icon={PencilLine}
              ref={renames}
              onClick={() => setNaming(true)}
            />
          )}
          {onCopy && <CardButton label={`Copy ${name}`} icon={Copy} onClick={onCopy} />}
          {onToggle && (
            <CardButton
              label={`${on ? "Switch off" : "Switch on"} ${name}`}
              icon={EyeOff}
              pressed={!on}
              onClick={onToggle}
            />
          )}
          {onRemove && <CardButton danger label={`Remove ${name}`} icon={Trash2} onClick={onRemove} />}
        </div>
      )}
    </fieldset>
  );
}
