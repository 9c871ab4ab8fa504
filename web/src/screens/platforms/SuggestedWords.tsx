import { suggestWords, type WordsLine } from "@/api/platforms";
import { useChange } from "@/api/useChange";
import { Button } from "@/ui/Button";

interface SuggestedWordsProps {
  blog: string;
  source: string;
  lines: readonly WordsLine[];
  onAdd: (text: string) => void;
}

/** Suggested search words, from captured and kept items. */
export function SuggestedWords({ blog, source, lines, onAdd }: SuggestedWordsProps) {
  const asking = useChange(() => suggestWords(blog, source));
  const fresh = asking.data?.filter(({ text }) => !lines.some((line) => line.text.trim() === text)) ?? [];
  return (
    <div className="mt-3 flex flex-wrap items-center gap-1.5 text-xs">
      <Button small busy={asking.isPending} onClick={() => asking.mutate()}>
        Suggest words
      </Button>
      {fresh.map(({ text, kept, elsewhere }) => (
        <button
          key={text}
          type="button"
          title={`in ${kept} kept items, in ${elsewhere} others`}
          onClick={() => onAdd(text)}
          className="min-h-6 rounded-full border border-line bg-sheet px-2.5 hover:border-verd"
        >
          {text}
        </button>
      ))}
      {asking.data && !fresh.length && (
        <span className="text-ink3">No phrase stands more often in kept items than elsewhere.</span>
      )}
      {asking.error && (
        <span role="alert" className="text-madder">
          {asking.error.message}
        </span>
      )}
    </div>
  );
}
