import { WordLine } from "@/ui/WordLine";
import { WordList } from "@/ui/WordList";
import { WordSelect } from "@/ui/WordSelect";
import { WordToggle } from "@/ui/WordToggle";
import type { SentenceProps } from "./types";

const GONE = [
  { value: "none", label: "keep all links" },
  { value: "all", label: "remove all links" },
  { value: "outside", label: "remove links to other hosts" },
  { value: "inside", label: "remove links to its own host" },
] as const;
const RELS = ["nofollow", "sponsored", "ugc"] as const;
const PARAMETER = /^([^\s?=]+)\s+([^\s=]+)=(.*)$/;

/** “shop.example tag=meadow”: a host, and the parameter added to its links. */
function parametersIn(lines: readonly string[]) {
  return lines.flatMap((line) => {
    const [, host, name, value] = PARAMETER.exec(line) ?? [];
    return host && name ? [{ host, name, value: value ?? "" }] : [];
  });
}

export function LinksSentence({ step, onChange }: SentenceProps<"links">) {
  const none = new Set<string>();
  return (
    <>
      <span className="font-medium">Links</span>:{" "}
      <WordSelect
        label="Which go"
        value={step.gone}
        options={GONE}
        onChange={(gone) => onChange({ ...step, gone })}
      />
      {step.gone !== "none" && (
        <>
          {" "}
          except to{" "}
          <WordList
            label="Hosts that stay"
            placeholder="host"
            values={step.kept_hosts}
            added={none}
            onChange={(kept_hosts) => onChange({ ...step, kept_hosts })}
          />
        </>
      )}
      ; mark those that lead outside{" "}
      {RELS.map((rel) => (
        <WordToggle
          key={rel}
          label={rel}
          on={step.rel.includes(rel)}
          onChange={(on) =>
            onChange({ ...step, rel: on ? [...step.rel, rel] : step.rel.filter((other) => other !== rel) })
          }
        />
      ))}{" "}
      <WordToggle label="new tab" on={step.new_tab} onChange={(new_tab) => onChange({ ...step, new_tab })} />
      {"; add "}
      <WordList
        label="Parameters by host"
        placeholder="host name=value"
        values={step.parameters.map((parameter) => `${parameter.host} ${parameter.name}=${parameter.value}`)}
        added={none}
        onChange={(lines) => onChange({ ...step, parameters: parametersIn(lines) })}
      />
      <WordLine
        label="One address for all"
        hint="leave empty to keep each link’s own address"
        value={step.replaced_by}
        onChange={(replaced_by) => onChange({ ...step, replaced_by })}
      />
    </>
  );
}
