import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { keys } from "@/api/keys";
import type { Proof, ProofAsked } from "@/api/proofs";
import { askForTexts, type ProofTexts } from "@/api/services";
import { isEnded, tasksQuery } from "@/api/tasks";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { costWords } from "@/lib/cost-words";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Question } from "@/ui/Question";
import { useTell } from "@/ui/Toasts";

interface TextsWantedProps {
  blog: string;
  slug: string;
  asked: ProofAsked;
  proof: Proof;
  /** One item, or null for all that wait. */
  item: number | null;
}

/** The items of a proof that wait for texts of language services, and the way to ask for them. */
export function TextsWanted({ blog, slug, asked, proof, item }: TextsWantedProps) {
  const editor = useMay()("editor");
  const tell = useTell();
  const queries = useQueryClient();
  const [cost, setCost] = useState<ProofTexts | null>(null);
  const [task, setTask] = useState<number | null>(null);
  const body = { ...asked, as_of: proof.as_of, item };
  const pricing = useChange(() => askForTexts(blog, slug, { ...body, go: false }), { onDone: setCost });
  const asking = useChange(() => askForTexts(blog, slug, { ...body, go: true }), {
    refresh: [keys.tasks(blog)],
    onDone: (answer) => setTask(answer.task),
  });
  const tasks = useQuery({ ...tasksQuery(blog), enabled: task !== null }).data;
  const found = tasks?.find(({ id }) => id === task);
  const ended = found && isEnded(found) ? found : null;
  useEffect(() => {
    if (!ended) return;
    setTask(null);
    if (ended.failure) tell(ended.failure, { tone: "bad" });
    void queries.invalidateQueries({ queryKey: keys.proof(blog, slug) });
  }, [ended, tell, queries, blog, slug]);

  const waiting = proof.items.filter(
    ({ id, reason }) => reason?.code === "shape.waits" && (item === null || id === item),
  ).length;
  if (!waiting) return null;
  const busy = pricing.isPending || asking.isPending || task !== null;
  return (
    <div className="rounded-md bg-ochre-wash p-2 text-xs">
      <p className="flex flex-wrap items-center gap-2">
        <span className="min-w-0 flex-1">
          {item === null
            ? `${plural(waiting, "item waits for its text", "items wait for their texts")}. A proof asks no service by itself.`
            : "Its text is not there yet. A proof asks no service by itself."}
        </span>
        {editor && (
          <Button small busy={busy} onClick={() => pricing.mutate()}>
            {item === null ? "Ask for all" : "Ask for its text"}
          </Button>
        )}
      </p>
      {found && !ended && (
        <p role="status" className="mt-1 text-ink3">
          {found.total ? `${found.done} of ${plural(found.total, "text")} answered` : "It begins"}
        </p>
      )}
      {(pricing.error ?? asking.error) && (
        <p role="alert" className="mt-1 text-madder">
          {(pricing.error ?? asking.error)?.message}
        </p>
      )}
      {cost && (
        <Question
          title={`Ask for ${plural(cost.texts, "text")}?`}
          text={`It sends ${costWords(cost.costs)}. What is answered is kept, and never asked twice.`}
          stay="Cancel"
          go="Ask"
          onStay={() => setCost(null)}
          onGo={() => {
            setCost(null);
            asking.mutate();
          }}
        />
      )}
    </div>
  );
}
