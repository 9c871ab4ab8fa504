import type { Note } from "@/api/proofs";
import type { Wordings, Words } from "./data";
import { MATCH } from "./match";
import { PLACE } from "./place";
import { RELEASE } from "./release";
import { SHAPE } from "./shape";
import { SIFT } from "./sift";

export { hits, list, type TermHit, type Words } from "./data";
export { comparedPost } from "./match";
export { reasonName, STAGE_NAMES, STAGES, STATE_WORDS, VERDICT_WORDS } from "./names";

const WORDINGS: Wordings = { ...SIFT, ...MATCH, ...SHAPE, ...PLACE, ...RELEASE };

/** A note of a trace in words; an unknown code is shown as it is. */
export function wordsOf(note: Note): Words {
  const wording = WORDINGS[note.code];
  return wording ? wording(note) : { strong: note.code, rest: "" };
}
