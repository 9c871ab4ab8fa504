import type { WordListRow } from "@/api/blogs";
import type { SiftRule } from "@/api/campaigns";
import { siftKind } from "@/lib/sift-kinds";
import { DescribedSentence } from "./DescribedSentence";
import { GroupSentence } from "./GroupSentence";
import { NumberSentence } from "./NumberSentence";
import { PatternSentence } from "./PatternSentence";
import { QuerySentence } from "./QuerySentence";
import { TermsSentence } from "./TermsSentence";
import { ValuesSentence } from "./ValuesSentence";

interface SiftSentenceProps {
  rule: SiftRule;
  saved: SiftRule | undefined;
  lists: readonly WordListRow[];
  /** The server's faults at a path of the document. */
  faultOf: (path: string) => string | undefined;
  path: string;
  onChange: (rule: SiftRule) => void;
}

/** A filter rule as a sentence, whatever its kind. */
export function SiftSentence({ rule, saved, lists, faultOf, path, onChange }: SiftSentenceProps) {
  switch (rule.kind) {
    case "terms":
      return (
        <TermsSentence
          rule={rule}
          saved={saved?.kind === "terms" ? saved : undefined}
          lists={lists}
          onChange={onChange}
        />
      );
    case "query":
      return <QuerySentence rule={rule} fault={faultOf(`${path}.query`)} onChange={onChange} />;
    case "pattern":
      return <PatternSentence rule={rule} fault={faultOf(`${path}.pattern`)} onChange={onChange} />;
    case "values":
      return (
        <ValuesSentence
          rule={rule}
          saved={saved?.kind === "values" ? saved : undefined}
          onChange={onChange}
        />
      );
    case "number":
      return <NumberSentence rule={rule} onChange={onChange} />;
    case "group":
      return <GroupSentence rule={rule} lists={lists} faultOf={faultOf} path={path} onChange={onChange} />;
    default: {
      const info = siftKind(rule.kind);
      return info ? <DescribedSentence rule={rule} info={info} onChange={onChange} /> : null;
    }
  }
}
