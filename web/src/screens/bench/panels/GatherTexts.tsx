import { keys } from "@/api/keys";
import { changeSource, choicesOf, type Source } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { PageTexts } from "@/components/PageTexts";
import { WordSelect } from "@/ui/WordSelect";
import { RuleCard } from "../rules/RuleCard";

const WORDS = 50;
const SHOWN = 30;
const TEXTS = [
  { value: "feed", label: "as the feed gives it" },
  { value: "page", label: "completed from its page" },
] as const;

function TextOfSource({ blog, source }: { blog: string; source: Source }) {
  const changing = useChange(
    (words: number) => changeSource(blog, source.key, { ...choicesOf(source), full_text_words: words }),
    { refresh: [keys.sources(blog), keys.source(blog)] },
  );
  const taken = source.full_text_words > 0;
  return (
    <div className="border-t border-line2 py-1.5 first-of-type:border-0">
      The text of <span className="font-medium">{source.title}</span> is taken{" "}
      <WordSelect
        label={`Text of ${source.title}`}
        value={taken ? "page" : "feed"}
        options={TEXTS}
        onChange={(value) => changing.mutate(value === "page" ? WORDS : 0)}
      />
      {taken && <PageTexts blog={blog} source={source.key} />}
      {changing.error && (
        <p role="alert" className="text-madder">
          {changing.error.message}
        </p>
      )}
    </div>
  );
}

/** Whether two-line feeds are completed from their pages, a setting of the source. */
export function GatherTexts({ blog, sources }: { blog: string; sources: readonly Source[] }) {
  if (!sources.length) return null;
  return (
    <RuleCard name="Full text" edited={false}>
      {sources.slice(0, SHOWN).map((source) => (
        <TextOfSource key={source.key} blog={blog} source={source} />
      ))}
      {sources.length > SHOWN && (
        <p className="text-ink3">That of the others is chosen on the page of each source.</p>
      )}
      <p className="text-xs text-ink3">
        This is kept with the source at once: it holds for every campaign that uses it.
      </p>
    </RuleCard>
  );
}
