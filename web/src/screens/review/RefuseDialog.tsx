import { useState } from "react";
import type { SiftRule } from "@/api/campaigns";
import type { Post } from "@/api/posts";
import { plural } from "@/lib/format";
import { newSiftRule } from "@/lib/rules";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

interface RefuseDialogProps {
  post: Post;
  number: number;
  editor: boolean;
  onClose: () => void;
  /** With a rule, the bench opens to show its effect before it is saved. */
  onRefuse: (why: string, rule: SiftRule | null) => void;
}

type Choice = "none" | "words" | "short" | "title";

/** Refuses with a reason, and offers to make a rule. */
export function RefuseDialog({ post, number, editor, onClose, onRefuse }: RefuseDialogProps) {
  const [why, setWhy] = useState("");
  const [choice, setChoice] = useState<Choice>("none");
  const [words, setWords] = useState("");
  const terms = words
    .split(",")
    .map((word) => word.trim())
    .filter(Boolean);

  function rule(): SiftRule | null {
    const title = why.trim().slice(0, 80);
    if (choice === "short")
      return { ...newSiftRule("number", []), title, at_least: post.words + 1 } as SiftRule;
    if (choice === "none" || !terms.length) return null;
    const field = choice === "title" ? "title" : "title_or_text";
    return { ...newSiftRule("terms", []), title, field, terms } as SiftRule;
  }

  const choices: [Choice, string][] = [
    ["none", "Make no rule"],
    ["title", "Refuse what has these words in its title"],
    ["words", "Refuse what has these words in title or text"],
    ["short", `Refuse what has no more than ${plural(post.words, "word")}`],
  ];
  const asksWords = choice === "title" || choice === "words";
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={number > 1 ? `Refuse ${plural(number, "post")}` : `Refuse “${post.title}”`}
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          onRefuse(why.trim(), rule());
        }}
      >
        <Field label="Reason" hint="Kept with the post, for the others who review.">
          <input
            className={inputLook}
            value={why}
            maxLength={500}
            onChange={(event) => setWhy(event.target.value)}
          />
        </Field>
        {editor && post.campaign_slug && (
          <fieldset className="space-y-1.5">
            <legend className="mb-1 font-semibold">Next time</legend>
            {choices.map(([value, text]) => (
              <label key={value} className="flex gap-2">
                <input
                  type="radio"
                  name="rule"
                  className="accent-verd"
                  checked={choice === value}
                  onChange={() => setChoice(value)}
                />
                {text}
              </label>
            ))}
            {asksWords && (
              <input
                aria-label="Words"
                placeholder="Words, parted by commas"
                className={inputLook}
                value={words}
                onChange={(event) => setWords(event.target.value)}
              />
            )}
            {choice !== "none" && (
              <p className="text-xs text-ink3">
                The bench of “{post.campaign}” opens with the rule and shows what it would refuse. Nothing is
                saved until you save it.
              </p>
            )}
          </fieldset>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="danger" disabled={asksWords && !terms.length}>
            {choice === "none" ? "Refuse" : "Refuse and open the bench"}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
