import type { Appearance } from "@/api/blogs";
import { Field, inputLook } from "@/ui/Field";

interface OwnCssProps {
  look: Appearance;
  onChange: (changed: Partial<Appearance>) => void;
  fault: (name: string) => string | undefined;
}

/** The style sheet of a blog's own. */
export function OwnCss({ look, onChange, fault }: OwnCssProps) {
  return (
    <Field
      label="Style sheet of your own"
      hint="CSS, read after the blog's own. What loads from other hosts, such as @import, is left out. The documentation lists the names that can be styled."
      error={fault("css")}
    >
      <textarea
        className={`${inputLook} font-mono text-xs`}
        rows={22}
        maxLength={20_000}
        spellCheck={false}
        placeholder=".opener h2 { text-transform: none }"
        value={look.css}
        onChange={(event) => onChange({ css: event.target.value })}
      />
    </Field>
  );
}
