import { useQuery } from "@tanstack/react-query";
import { useEffect, useId, useState } from "react";
import { type NameKind, namesQuery } from "@/api/names";
import { useSettled } from "@/lib/useSettled";
import { Field, inputLook } from "@/ui/Field";

interface NamesFieldProps {
  blog: string;
  kind: NameKind;
  label: string;
  hint: string;
  names: readonly string[];
  onChange: (names: string[]) => void;
}

function namesIn(text: string): string[] {
  const names = text.split(",").map((name) => name.trim().replace(/^#/, ""));
  return [...new Set(names.filter(Boolean))];
}

/** How many names complete what is typed. */
const OFFERED = 50;

/** Comma-separated names; the last one is completed from those of the blog. */
export function NamesField({ blog, kind, label, hint, names, onChange }: NamesFieldProps) {
  const [text, setText] = useState(names.join(", "));
  const list = useId();
  const begun = useSettled(text.slice(text.lastIndexOf(",") + 1).trim());
  const known = useQuery(namesQuery(blog, kind, begun, 0, OFFERED)).data?.rows ?? [];
  useEffect(() => {
    // Outside values are shown, but not over what is being typed.
    setText((before) => (namesIn(before).join(",") === names.join(",") ? before : names.join(", ")));
  }, [names]);
  const before = namesIn(text.slice(0, text.lastIndexOf(",") + 1));
  return (
    <Field label={label} hint={hint}>
      <input
        className={inputLook}
        list={list}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          onChange(namesIn(event.target.value));
        }}
      />
      <datalist id={list}>
        {known.map(({ id, name }) => (
          <option key={id} value={[...before, name].join(", ")} />
        ))}
      </datalist>
    </Field>
  );
}
