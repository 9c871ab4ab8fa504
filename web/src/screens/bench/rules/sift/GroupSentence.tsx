import { Trash2 } from "lucide-react";
import type { WordListRow } from "@/api/blogs";
import type { SiftRule } from "@/api/campaigns";
import { newSiftRule, withEntry } from "@/lib/rules";
import { SIFT_KINDS } from "@/lib/sift-kinds";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { WordSelect } from "@/ui/WordSelect";
import { SiftSentence } from "./SiftSentence";

type GroupRule = Extract<SiftRule, { kind: "group" }>;

interface GroupSentenceProps {
  rule: GroupRule;
  lists: readonly WordListRow[];
  faultOf: (path: string) => string | undefined;
  path: string;
  onChange: (rule: GroupRule) => void;
}

const MODES = [
  { value: "all", label: "all of" },
  { value: "any", label: "any of" },
  { value: "none", label: "none of" },
] as const;

/** A group of rules, which can contain groups. */
export function GroupSentence({ rule, lists, faultOf, path, onChange }: GroupSentenceProps) {
  const set = (id: string, next: SiftRule | null) =>
    onChange({ ...rule, rules: withEntry(rule.rules, id, next) });
  return (
    <>
      <WordSelect
        label="How many rules"
        value={rule.mode}
        options={MODES}
        tone={rule.mode === "none" ? "madder" : "verd"}
        onChange={(mode) => onChange({ ...rule, mode })}
      />{" "}
      these hold:
      <ul className="mt-1 space-y-1 border-l-2 border-line pl-2">
        {rule.rules.map((inner, index) => (
          <li key={inner.id} className="flex items-start gap-1">
            <div className="min-w-0 flex-1">
              <SiftSentence
                rule={inner}
                saved={undefined}
                lists={lists}
                faultOf={faultOf}
                path={`${path}.rules.${index}`}
                onChange={(next) => set(inner.id, next)}
              />
            </div>
            {rule.rules.length > 1 && (
              <button
                type="button"
                aria-label={`Remove rule ${inner.id}`}
                className="inline-flex size-6 shrink-0 items-center justify-center text-ink3 hover:text-madder"
                onClick={() => set(inner.id, null)}
              >
                <Trash2 size={12} />
              </button>
            )}
          </li>
        ))}
      </ul>
      <Menu
        trigger={
          <Button small look="quiet">
            Add to the group
          </Button>
        }
        entries={SIFT_KINDS.map(({ kind, label, hint }) => ({
          label,
          hint,
          onSelect: () => onChange({ ...rule, rules: [...rule.rules, newSiftRule(kind, rule.rules)] }),
        }))}
      />
    </>
  );
}
