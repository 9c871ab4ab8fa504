import { useState } from "react";
import type { RightsOfMany } from "@/api/sources";
import { FormError } from "@/components/FormError";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { WordNumber } from "@/ui/WordNumber";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import { RIGHTS } from "./rights";

const LINES = [
  { value: "kept", label: "the line that each has" },
  { value: "same", label: "the line" },
] as const;
const TEXTS = [
  { value: "kept", label: "come as each source has it" },
  { value: "fetched", label: "are fetched from pages" },
  { value: "left", label: "are taken from the feeds" },
] as const;
const MORE_WORDS = 30;
const EXCERPT_WORDS = 55;

interface RightsTogetherProps {
  number: number;
  busy: boolean;
  error: Error | null;
  onSave: (rights: RightsOfMany) => void;
  onClose: () => void;
}

/** Asks what several sources allow, and whether their full texts are fetched. */
export function RightsTogether({ number, busy, error, onSave, onClose }: RightsTogetherProps) {
  const [right, setRight] = useState<RightsOfMany["right"]>("excerpt");
  const [words, setWords] = useState(EXCERPT_WORDS);
  const [line, setLine] = useState<string | null>(null);
  const [texts, setTexts] = useState<(typeof TEXTS)[number]["value"]>("kept");
  const fullTextWords = { kept: null, fetched: MORE_WORDS, left: 0 }[texts];
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`Rights of ${plural(number, "source")}`}
      description="They apply to posts made from now on, and override every template."
    >
      <p className="leading-loose">
        They allow posts to carry{" "}
        <WordSelect label="Right" value={right} options={RIGHTS} onChange={setRight} />
        {right === "excerpt" && (
          <>
            {" "}
            of at most <WordNumber label="Words at most" value={words} max={10_000} onChange={setWords} />{" "}
            words
          </>
        )}
        , with{" "}
        <WordSelect
          label="Attribution"
          value={line === null ? "kept" : "same"}
          options={LINES}
          onChange={(next) => setLine(next === "kept" ? null : "")}
        />
        {line !== null && (
          <>
            {" "}
            <WordText
              label="Attribution line"
              value={line}
              known={[]}
              placeholder="no line"
              longest={300}
              onChange={setLine}
            />
          </>
        )}{" "}
        under each post. Full texts{" "}
        <WordSelect label="Full texts" value={texts} options={TEXTS} onChange={setTexts} />
        {texts === "fetched" && ` that have at least ${MORE_WORDS} words more`}.
      </p>
      <FormError error={error} />
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          look="primary"
          busy={busy}
          onClick={() =>
            onSave({ right, right_words: words, attribution: line, full_text_words: fullTextWords })
          }
        >
          Change {plural(number, "source")}
        </Button>
      </div>
    </Dialog>
  );
}
