import { Field, inputLook } from "@/ui/Field";
import type { Written } from "./written";

interface ServiceFieldsProps {
  written: Written;
  isNew: boolean;
  fault: (path: string) => string | undefined;
  onChange: (part: Partial<Written>) => void;
}

/** The fields of a language service. */
export function ServiceFields({ written, isNew, fault, onChange }: ServiceFieldsProps) {
  const mono = `${inputLook} font-mono text-xs`;
  return (
    <>
      <Field label="Name" error={fault("name")}>
        <input
          className={inputLook}
          value={written.name}
          maxLength={100}
          onChange={(event) => onChange({ name: event.target.value })}
        />
      </Field>
      <Field label="Address" error={fault("document.address")} hint="The key goes to this host alone.">
        <input
          className={mono}
          value={written.address}
          spellCheck={false}
          placeholder="https://translate.example/v1/texts"
          onChange={(event) => onChange({ address: event.target.value })}
        />
      </Field>
      <Field
        label="Key"
        error={fault("secret")}
        hint={isNew ? "Empty where it needs none." : "Leave it empty to keep the one that is known."}
      >
        <input
          type="password"
          className={inputLook}
          autoComplete="off"
          placeholder={isNew ? "" : "kept"}
          value={written.secret}
          onChange={(event) => onChange({ secret: event.target.value })}
        />
      </Field>
      {written.body.includes("{model}") && (
        <Field label="Model" error={fault("document.model")}>
          <input
            className={inputLook}
            value={written.model}
            maxLength={100}
            onChange={(event) => onChange({ model: event.target.value })}
          />
        </Field>
      )}
      <div className="grid grid-cols-3 gap-3">
        <Field label="Characters a day" error={fault("most_a_day")} hint="Empty for no limit.">
          <input
            type="number"
            min={1}
            className={inputLook}
            value={written.most_a_day ?? ""}
            onChange={(event) => onChange({ most_a_day: Number(event.target.value) || null })}
          />
        </Field>
        <Field label="Price of a million" error={fault("price")} hint="Characters. Empty where unknown.">
          <input
            inputMode="decimal"
            className={inputLook}
            value={written.price}
            onChange={(event) => onChange({ price: event.target.value })}
          />
        </Field>
        <Field label="Currency" error={fault("currency")}>
          <input
            className={inputLook}
            value={written.currency}
            maxLength={3}
            placeholder="EUR"
            onChange={(event) => onChange({ currency: event.target.value })}
          />
        </Field>
      </div>
      <details
        className="space-y-3"
        open={!!(fault("document.rest") || fault("document.body") || fault("document.answer"))}
      >
        <summary className="cursor-pointer font-medium">What is sent, and where the answer stands</summary>
        <Field
          label="Body of the request"
          error={fault("document.body") || fault("document")}
          hint="JSON. “{texts}” becomes the list of texts; {text}, {source}, {target} and {prompt} stand within strings."
        >
          <textarea
            className={`${mono} h-32`}
            spellCheck={false}
            value={written.body}
            onChange={(event) => onChange({ body: event.target.value })}
          />
        </Field>
        <Field
          label="Where the texts stand in the answer"
          error={fault("document.answer")}
          hint="A JMESPath."
        >
          <input
            className={mono}
            spellCheck={false}
            value={written.answer}
            onChange={(event) => onChange({ answer: event.target.value })}
          />
        </Field>
        <Field
          label="The rest of the description"
          error={fault("document.rest")}
          hint="JSON: headers, codes of languages, limits of a request, tasks, the form of marks, jobs."
        >
          <textarea
            className={`${mono} h-40`}
            spellCheck={false}
            value={written.rest}
            onChange={(event) => onChange({ rest: event.target.value })}
          />
        </Field>
      </details>
    </>
  );
}
