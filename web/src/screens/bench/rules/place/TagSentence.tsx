import type { TagRule } from "@/api/campaigns";
import { WordNumber } from "@/ui/WordNumber";

const PLAIN = {
  source: "The source’s categories, as written",
  hashtags: "Hashtags in title and text",
  matched: "Terms that the rules of Sift found, as written in the item",
};

/** A rule that gives a post tags, whatever its kind. */
export function TagSentence({ rule, onChange }: { rule: TagRule; onChange: (rule: TagRule) => void }) {
  if (rule.kind !== "title") return <span className="font-medium">{PLAIN[rule.kind]}</span>;
  return (
    <>
      <span className="font-medium">Key phrases of the title</span>, at most{" "}
      <WordNumber
        label="Phrases"
        value={rule.at_most}
        max={20}
        onChange={(at_most) => onChange({ ...rule, at_most })}
      />{" "}
      of at least{" "}
      <WordNumber
        label="Letters"
        value={rule.least_letters}
        max={30}
        onChange={(least_letters) => onChange({ ...rule, least_letters })}
      />{" "}
      letters
    </>
  );
}
