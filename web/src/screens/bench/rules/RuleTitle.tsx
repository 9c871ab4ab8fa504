import { LONGEST_TITLE } from "@/lib/rules";
import { NameInput } from "@/ui/NameInput";

interface RuleTitleProps {
  title: string;
  /** The rule, for a screen reader. */
  name: string;
  editing: boolean;
  onChange: (title: string) => void;
  onDone: (byKey: boolean) => void;
}

/** A person's name for a rule, above its sentence. */
export function RuleTitle({ title, name, editing, onChange, onDone }: RuleTitleProps) {
  if (!editing) return title ? <p className="font-semibold [overflow-wrap:anywhere]">{title}</p> : null;
  return (
    <div className="mb-1">
      <NameInput
        label={`Name of ${name}`}
        value={title}
        longest={LONGEST_TITLE}
        placeholder="What this rule is for"
        onChange={onChange}
        onDone={onDone}
      />
    </div>
  );
}
