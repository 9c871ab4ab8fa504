import { useState } from "react";
import { baseLanguage, isLanguageTag, LANGUAGES, languageName } from "@/lib/languages";
import { Button } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";

interface AddLanguageProps {
  usual: string;
  taken: readonly string[];
  onAdd: (tag: string) => void;
}

/** A field for the tag of a language, with those that are offered first. */
export function AddLanguage({ usual, taken, onAdd }: AddLanguageProps) {
  const [tag, setTag] = useState("");
  const wanted = tag.trim();
  const isTaken = taken.includes(wanted) || baseLanguage(wanted) === baseLanguage(usual);
  const isValid = isLanguageTag(wanted) && !isTaken;
  const add = () => {
    if (!isValid) return;
    onAdd(wanted);
    setTag("");
  };
  const fault = wanted && isTaken ? "The blog has this language already." : undefined;
  return (
    <div className="sheet-card flex items-end gap-3 p-5">
      <Field
        label="Another language"
        hint={isValid ? languageName(wanted) : "Its tag: de, pt-BR, zh-Hant."}
        error={fault}
      >
        <input
          className={inputLook}
          list="languages-to-add"
          maxLength={20}
          value={tag}
          onChange={(event) => setTag(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            event.preventDefault();
            add();
          }}
        />
      </Field>
      <datalist id="languages-to-add">
        {LANGUAGES.filter((one) => !taken.includes(one)).map((one) => (
          <option key={one} value={one}>
            {languageName(one)}
          </option>
        ))}
      </datalist>
      <Button disabled={!isValid} onClick={add}>
        Add
      </Button>
    </div>
  );
}
