import type { WordListRow } from "@/api/blogs";
import type { CategoryRule } from "@/api/campaigns";
import type { SeenCategory } from "@/api/sources";
import { PairRows } from "@/ui/PairRows";
import { WordList } from "@/ui/WordList";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import { ListChips } from "../ListChips";

interface CategorySentenceProps {
  rule: CategoryRule;
  known: readonly string[];
  lists: readonly WordListRow[];
  /** The categories that the sources give their items. */
  seen?: readonly SeenCategory[];
  onChange: (rule: CategoryRule) => void;
}

/** How sources write that a category stands under another: “Garden > Tomatoes”. */
const SEPARATORS = [">", "/", ":", "»"];

const UNMAPPED = [
  { value: "create", label: "makes a category" },
  { value: "fall_back", label: "gives the usual one" },
  { value: "ignore", label: "is ignored" },
] as const;
const NONE_NEW: ReadonlySet<string> = new Set();

/** A rule that gives a post categories, whatever its kind. */
export function CategorySentence({ rule, known, lists, seen = [], onChange }: CategorySentenceProps) {
  if (rule.kind === "fixed") {
    return (
      <>
        <span className="font-medium">Always</span>{" "}
        <WordList
          label="Categories"
          atLeastOne
          values={rule.names}
          added={NONE_NEW}
          onChange={(names) => onChange({ ...rule, names })}
        />
      </>
    );
  }
  if (rule.kind === "terms") {
    return (
      <>
        <WordText
          label="Category"
          value={rule.name}
          known={known}
          placeholder="category"
          onChange={(name) => onChange({ ...rule, name })}
        />{" "}
        where title or text has{" "}
        <WordList
          label="Terms"
          atLeastOne={rule.lists.length === 0}
          values={rule.terms}
          added={NONE_NEW}
          onChange={(terms) => onChange({ ...rule, terms })}
        />{" "}
        <ListChips
          lists={lists}
          chosen={rule.lists}
          mayBeEmpty={rule.terms.length > 0}
          onChange={(keys) => onChange({ ...rule, lists: keys })}
        />
      </>
    );
  }
  return (
    <>
      <span className="font-medium">
        {rule.kind === "table" ? "By the source’s categories" : "By the keyword that found it"}
      </span>
      ; a word that is not in the table{" "}
      <WordSelect
        label="Other words"
        value={rule.unmapped}
        options={UNMAPPED}
        onChange={(unmapped) => onChange({ ...rule, unmapped })}
      />
      {rule.kind === "table" && (
        <>
          ; branches are parted by{" "}
          <WordText
            label="Separator"
            value={rule.separator ?? ""}
            known={SEPARATORS}
            placeholder="nothing"
            longest={5}
            onChange={(separator) => onChange({ ...rule, separator })}
          />
          {rule.separator && (
            <>
              , at most{" "}
              <WordNumber
                label="Depth"
                value={rule.depth ?? 3}
                min={1}
                max={6}
                onChange={(depth) => onChange({ ...rule, depth })}
              />{" "}
              deep
            </>
          )}
        </>
      )}
      <PairRows
        label="Table of categories"
        rows={rule.rows.map(({ word, name }) => [word, name])}
        heads={["their word", "our category"]}
        known={known}
        seen={rule.kind === "table" ? seen : []}
        onChange={(rows) => onChange({ ...rule, rows: rows.map(([word, name]) => ({ word, name })) })}
      />
    </>
  );
}
