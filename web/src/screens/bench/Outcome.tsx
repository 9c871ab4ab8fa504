import type { ProofRow, Verdict } from "@/api/proofs";
import { plural } from "@/lib/format";

const SAID: readonly { verdict: Verdict; one: string; many: string; tone?: string }[] = [
  { verdict: "publish", one: "goes out", many: "go out" },
  { verdict: "private", one: "goes out privately", many: "go out privately" },
  { verdict: "scheduled", one: "scheduled", many: "scheduled" },
  { verdict: "hold", one: "waits for review", many: "wait for review", tone: "font-semibold text-ochre" },
  { verdict: "draft", one: "draft", many: "drafts" },
  { verdict: "waiting", one: "waits for a later run", many: "wait for a later run", tone: "text-ink3" },
];

/** The outcome of the items that reached the last stage. Some wait for texts before it. */
export function Outcome({ items }: { items: readonly ProofRow[] }) {
  const found = SAID.map((said) => ({
    ...said,
    times: items.filter(({ verdict, left_at }) => verdict === said.verdict && left_at !== "shape").length,
  })).filter(({ times }) => times > 0);
  return found.map(({ verdict, one, many, tone, times }, place) => (
    <span key={verdict}>
      {place > 0 && " · "}
      <span className={tone}>{plural(times, one, many)}</span>
    </span>
  ));
}
