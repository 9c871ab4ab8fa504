import { ChevronDown } from "lucide-react";
import { useState } from "react";
import type { Campaign } from "@/api/campaigns";
import type { Over, Proof } from "@/api/proofs";
import { milliseconds, plural } from "@/lib/format";
import type { BenchState } from "../useBench";
import { OverDialog } from "./OverDialog";

function overWords(over: Over, proof: Proof): string {
  const items = plural(proof.items.length, "item");
  if (over.sample) return `${items} of a sample`;
  if (over.items?.length) return `${plural(proof.items.length, "picked item")}`;
  return `${items} of the last ${proof.days} days${over.source ? " of one source" : ""}`;
}

function waiting({ undecided }: Proof, over: Over): string {
  if (over.sample) return "";
  return undecided ? ` · ${plural(undecided, "item waits", "items wait")} for a run` : " · all decided";
}

interface ProofFactsProps {
  blog: string;
  campaign: Campaign;
  bench: BenchState;
}

/** The items and duration of the proof; choosing it opens the choice of items. */
export function ProofFacts({ blog, campaign, bench }: ProofFactsProps) {
  const [open, setOpen] = useState(false);
  const proof = bench.proof.data;
  return (
    <>
      <button
        type="button"
        title={`Choose the items of the proof, and the revision to compare with${proof ? `. It took ${milliseconds(proof.milliseconds)}.` : ""}`}
        className="inline-flex h-7 items-center gap-1 rounded px-1.5 text-ink3 hover:bg-sunk hover:text-ink"
        onClick={() => setOpen(true)}
      >
        <span aria-live="polite">
          {proof
            ? `Proof of ${overWords(bench.over, proof)}${waiting(proof, bench.over)}`
            : "Items of the proof"}
        </span>
        <ChevronDown size={12} aria-hidden="true" />
      </button>
      {open && <OverDialog blog={blog} campaign={campaign} bench={bench} onClose={() => setOpen(false)} />}
    </>
  );
}
