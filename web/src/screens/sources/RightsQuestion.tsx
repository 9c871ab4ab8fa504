import { keys } from "@/api/keys";
import { changeSource, choicesOf, type Source } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Button } from "@/ui/Button";
import { useTell } from "@/ui/Toasts";
import type { Right } from "./rights";

const ANSWERS: readonly { right: Right; title: string; effect: string }[] = [
  {
    right: "full",
    title: "The full text",
    effect: "It is yours, its licence allows it, or its owner said yes.",
  },
  {
    right: "excerpt",
    title: "An excerpt",
    effect: "The first words, with the link to the source.",
  },
  { right: "link", title: "A link only", effect: "Its title and the link, no word of its text." },
];

/** Asks once what posts may carry of a source of which nobody has said so. */
export function RightsQuestion({ blog, source }: { blog: string; source: Source }) {
  const tell = useTell();
  const saying = useChange(
    (right: Right) =>
      changeSource(blog, source.key, { ...choicesOf(source), right, version: source.version }),
    {
      refresh: [keys.source(blog, source.key), keys.sources(blog), keys.proof(blog)],
      onDone: () => tell("Saved. It applies to posts made from now on."),
    },
  );
  return (
    <section aria-label="Rights" className="mb-4 rounded-[10px] border border-ochre/40 bg-ochre-wash p-4">
      <h2 className="text-[15px] font-semibold">What may posts carry of this source?</h2>
      <p className="mt-1 text-ink2">
        Nobody has said so yet. Until somebody does, a post carries an excerpt of at most {source.right_words}{" "}
        words, whatever its template asks for.
      </p>
      <ul className="mt-3 grid gap-3 sm:grid-cols-3">
        {ANSWERS.map(({ right, title, effect }) => (
          <li key={right} className="flex flex-col items-start gap-2">
            <Button
              busy={saying.isPending && saying.variables === right}
              onClick={() => saying.mutate(right)}
            >
              {title}
            </Button>
            <span className="text-xs text-ink2">{effect}</span>
          </li>
        ))}
      </ul>
      <FormError error={saying.error} />
    </section>
  );
}
