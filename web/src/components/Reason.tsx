import clsx from "clsx";
import type { Note, Verdict } from "@/api/proofs";
import { VERDICT_WORDS, wordsOf } from "@/lib/wording";

const TONES: Record<Verdict, string> = {
  publish: "text-verd",
  hold: "text-ochre",
  draft: "text-ink2",
  private: "text-verd",
  scheduled: "text-verd",
  waiting: "text-ink2",
  refused: "text-madder",
  duplicate: "text-indigo",
};

/** The reason why an item left, or its outcome, in a few words. */
export function Reason({ verdict, reason }: { verdict: Verdict; reason: Note | null | undefined }) {
  const words = reason ? wordsOf(reason) : { strong: VERDICT_WORDS[verdict], rest: "" };
  return (
    <>
      <em className={clsx("font-semibold not-italic", TONES[verdict])}>{words.strong}</em>
      {words.rest && (reason?.stage === "match" ? ` as ${words.rest}` : `, ${words.rest}`)}
    </>
  );
}
