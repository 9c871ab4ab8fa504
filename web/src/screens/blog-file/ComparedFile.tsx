import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { bringInBlogFile, type ComparedPart, type Comparison } from "@/api/blog-file";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { useTell } from "@/ui/Toasts";
import { StateGroup } from "./StateGroup";
import { canCome, nameOf, STATES } from "./words";

interface ComparedFileProps {
  blog: string;
  name: string;
  yaml: string;
  comparison: Comparison;
  /** Compares again, because the blog is another now. */
  onAgain: () => void;
  onClose: () => void;
}

/** What a file would change, part by part, and the choice of what comes. */
export function ComparedFile({ blog, name, yaml, comparison, onAgain, onClose }: ComparedFileProps) {
  const queries = useQueryClient();
  const tell = useTell();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const chosen = comparison.parts.filter((part) => canCome(part) && !left.has(nameOf(part)));
  const changed = chosen.filter(({ state }) => state === "changed").length;
  const bringing = useChange(() => bringInBlogFile(blog, yaml, chosen, comparison.stamp), {
    onDone: ({ brought_in }) => {
      // Lists, sources, campaigns and proofs may all be others now.
      queries.invalidateQueries();
      tell(`${plural(brought_in, "part")} brought in from ${name}.`, { tone: "good" });
      onAgain();
    },
  });
  const choose = (parts: readonly ComparedPart[], on: boolean) =>
    setLeft((before) => {
      const names = parts.map(nameOf);
      return new Set(on ? [...before].filter((one) => !names.includes(one)) : [...before, ...names]);
    });
  return (
    <section aria-label={`What ${name} would change`} className="space-y-4">
      {STATES.map(({ state, title, text }) => {
        const parts = comparison.parts.filter((part) => part.state === state);
        if (!parts.length) return null;
        return (
          <StateGroup
            key={state}
            title={title}
            text={text}
            parts={parts}
            left={left}
            folded={state === "same" || state === "stays"}
            onChoose={choose}
          />
        );
      })}
      <FormError error={bringing.error} />
      <div className="flex items-center justify-end gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button onClick={onAgain}>Compare again</Button>
        {chosen.length > 0 ? (
          <Confirm
            trigger={
              <Button look="primary" busy={bringing.isPending}>
                Bring in {plural(chosen.length, "part")}
              </Button>
            }
            title={`Bring in ${plural(chosen.length, "part")} of ${name}?`}
            text={
              changed
                ? `${plural(changed, "part")} of this blog ${changed === 1 ? "is" : "are"} replaced. Former rules of a campaign stay among its revisions; former lists, tables and settings of sources do not.`
                : "They are new on this blog; nothing is replaced."
            }
            action="Bring them in"
            onConfirm={() => bringing.mutate()}
          />
        ) : (
          <span className="text-ink3">Nothing is chosen.</span>
        )}
      </div>
    </section>
  );
}
