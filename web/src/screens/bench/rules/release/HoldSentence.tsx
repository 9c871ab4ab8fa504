import type { HoldRule } from "@/api/campaigns";
import { WordList } from "@/ui/WordList";
import { WordNumber } from "@/ui/WordNumber";

const PLAIN = {
  no_picture: "has no lead image",
  no_category: "has no category of its own",
  unread_field: "has a field that could not be read",
};
const NONE_NEW: ReadonlySet<string> = new Set();

/** A condition that holds a post for review. */
export function HoldSentence({ rule, onChange }: { rule: HoldRule; onChange: (rule: HoldRule) => void }) {
  return (
    <>
      <span className="font-medium">Hold</span> a post that{" "}
      {rule.kind === "few_words" && (
        <>
          has fewer than{" "}
          <WordNumber
            label="Words"
            value={rule.fewer_than}
            max={100_000}
            onChange={(fewer_than) => onChange({ ...rule, fewer_than })}
          />{" "}
          words
        </>
      )}
      {rule.kind === "words" && (
        <>
          still has{" "}
          <WordList
            label="Terms"
            atLeastOne
            values={rule.terms}
            added={NONE_NEW}
            onChange={(terms) => onChange({ ...rule, terms })}
          />
        </>
      )}
      {rule.kind !== "few_words" && rule.kind !== "words" && PLAIN[rule.kind]}
    </>
  );
}
