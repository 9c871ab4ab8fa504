import { useEffect, useRef, useState } from "react";
import { LONGEST_TITLE } from "@/lib/rules";

interface RuleTitleProps {
  title: string;
  /** The rule, for a screen reader. */
  name: string;
  editing: boolean;
  onChange: (title: string) => void;
  /** `byKey` when a key ended it, so that the focus has nowhere to go. */
  onDone: (byKey: boolean) => void;
}

/** What a person calls a rule, above its sentence. Enter keeps a new title, Escape the old one. */
export function RuleTitle({ title, name, editing, onChange, onDone }: RuleTitleProps) {
  if (editing) return <TitleInput title={title} name={name} onChange={onChange} onDone={onDone} />;
  return title ? <p className="font-semibold [overflow-wrap:anywhere]">{title}</p> : null;
}

function TitleInput({ title, name, onChange, onDone }: Omit<RuleTitleProps, "editing">) {
  const [typed, setTyped] = useState(title);
  const input = useRef<HTMLInputElement>(null);
  const left = useRef(false);

  useEffect(() => {
    input.current?.focus();
    input.current?.select();
  }, []);

  function leave(next: string, byKey: boolean) {
    // Enter takes the field away, which is a loss of the focus as well.
    if (left.current) return;
    left.current = true;
    if (next !== title) onChange(next);
    onDone(byKey);
  }

  return (
    <input
      ref={input}
      aria-label={`Name of ${name}`}
      className="mb-1 h-7 w-full rounded-md border border-line bg-sheet px-2 font-semibold"
      value={typed}
      maxLength={LONGEST_TITLE}
      placeholder="What this rule is for"
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => leave(typed.trim(), false)}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== "Escape") return;
        // The focus goes to a button, which the same press would set off.
        event.preventDefault();
        leave(event.key === "Enter" ? typed.trim() : title, true);
      }}
    />
  );
}
