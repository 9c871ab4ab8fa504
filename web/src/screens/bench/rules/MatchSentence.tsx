import type { MatchRule } from "@/api/campaigns";
import { WordNumber } from "@/ui/WordNumber";

/** A comparison with earlier items. */
export function MatchSentence({ rule, onChange }: { rule: MatchRule; onChange: (rule: MatchRule) => void }) {
  switch (rule.kind) {
    case "identity":
      return (
        <>
          <span className="font-medium">Same identity</span>: the same entry of the same feed
        </>
      );
    case "link":
      return (
        <>
          <span className="font-medium">Same link</span>, after tracking parameters, www and the like are
          taken off
        </>
      );
    case "product":
      return (
        <>
          <span className="font-medium">Same product</span>: its trade number (GTIN, EAN, ISBN), or the shop’s
          own
        </>
      );
    case "media":
      return (
        <>
          <span className="font-medium">Same film or sound</span>, by its file or its platform’s number
        </>
      );
    case "keyword":
      return (
        <>
          <span className="font-medium">Same keyword</span>: one post for each keyword searched for
        </>
      );
    case "near_title":
      return (
        <>
          <span className="font-medium">Nearly the same title</span>: at least{" "}
          <WordNumber
            label="Likeness of titles in per cent"
            value={Math.round(rule.likeness * 100)}
            min={50}
            max={100}
            onChange={(percent) => onChange({ ...rule, likeness: percent / 100 })}
          />{" "}
          % of the words, and all numbers
        </>
      );
    case "near_text":
      return (
        <>
          <span className="font-medium">Nearly the same text</span>: at least{" "}
          <WordNumber
            label="Likeness of texts in per cent"
            value={Math.round(rule.likeness * 100)}
            min={20}
            max={100}
            onChange={(percent) => onChange({ ...rule, likeness: percent / 100 })}
          />{" "}
          % of the shorter one is in the longer, with its names and numbers
        </>
      );
    case "title":
      return (
        <>
          <span className="font-medium">Same title</span>, when it has at least{" "}
          <WordNumber
            label="Words in the title"
            value={rule.at_least_words}
            max={50}
            onChange={(at_least_words) => onChange({ ...rule, at_least_words })}
          />{" "}
          words
        </>
      );
  }
}
