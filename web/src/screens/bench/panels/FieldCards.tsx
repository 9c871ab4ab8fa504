import type { CustomField } from "@/api/campaigns";
import { faultAt } from "@/api/client";
import { newId } from "@/lib/rules";
import { FieldSentence } from "../rules/shape/FieldSentence";
import type { BenchState } from "../useBench";
import { RuleList } from "./RuleList";

const KINDS = [
  { kind: "field", label: "A field", hint: "shown on the post, known to templates as fields.name" },
] as const;

function newField(fields: readonly CustomField[]): CustomField {
  const id = newId("field", fields);
  return {
    id,
    title: "",
    on: true,
    name: id.replace("-", "_"),
    label: "",
    type: "text",
    value: "{{ facts.rating }}",
  };
}

/** The fields of the blog’s own. */
export function FieldCards({ bench }: { bench: BenchState }) {
  const { fields } = bench.document.shape;
  return (
    <RuleList
      label="Fields"
      one="field"
      isNamed
      add="Add a field"
      rules={fields}
      saved={bench.saved.shape.fields}
      kinds={KINDS}
      make={() => newField(fields)}
      onChange={(next) =>
        bench.change((document) => ({ ...document, shape: { ...document.shape, fields: next } }))
      }
      sentence={(field, change, index) => (
        <FieldSentence
          field={field}
          fault={faultAt(bench.proof.error, `shape.fields.${index}.value`)}
          onChange={change}
        />
      )}
    />
  );
}
