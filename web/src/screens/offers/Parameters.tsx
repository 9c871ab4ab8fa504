import { useEffect, useState } from "react";
import type { PartnerLink } from "@/api/offers";
import { inputLook } from "@/ui/Field";

type Values = NonNullable<PartnerLink["parameters"]>;

function read(text: string): Values {
  return Object.fromEntries([...new URLSearchParams(text)].filter(([name]) => name));
}

interface ParametersProps {
  label: string;
  values: Values;
  onChange: (values: Values) => void;
}

/** Parameters as an address writes them, “tag=meadow”. Each letter counts; what is half written stays as it is typed. */
export function Parameters({ label, values, onChange }: ParametersProps) {
  const written = new URLSearchParams(values).toString();
  const [text, setText] = useState(written);
  useEffect(() => {
    setText((before) => (new URLSearchParams(read(before)).toString() === written ? before : written));
  }, [written]);
  return (
    <input
      aria-label={label}
      className={`${inputLook} !py-0.5`}
      placeholder="tag=meadow"
      value={text}
      onChange={(event) => {
        setText(event.target.value);
        onChange(read(event.target.value));
      }}
    />
  );
}
