import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { type ProofItem, proofStepQuery, type Version } from "@/api/proofs";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { inLines, type Piece, sideBySide } from "@/lib/side-by-side";
import { Dialog } from "@/ui/Dialog";
import { Scroll } from "@/ui/Scroll";
import { Segmented } from "@/ui/Segmented";

interface StepDialogProps {
  blog: string;
  slug: string;
  asked: ProofItem;
  step: { id: string; name: string };
  onClose: () => void;
}

type View = "text" | "html";

function Side({ name, pieces, look }: { name: string; pieces: readonly Piece[]; look: string }) {
  return (
    <section aria-label={name} className="flex min-w-0 flex-col">
      <h3 className="mb-1 font-semibold">{name}</h3>
      <Scroll label={name} className="h-[52vh] rounded-md border border-line2 bg-chalk p-2.5">
        <p className="whitespace-pre-wrap [overflow-wrap:anywhere]">
          {pieces.map((piece, place) =>
            piece.differs ? (
              // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of a text have nothing but their place
              <mark key={place} className={look}>
                {piece.text}
              </mark>
            ) : (
              piece.text
            ),
          )}
        </p>
      </Scroll>
    </section>
  );
}

/** An item before and after a step of Shape, side by side. */
export function StepDialog({ blog, slug, asked, step, onClose }: StepDialogProps) {
  const [view, setView] = useState<View>("text");
  const found = useQuery(proofStepQuery(blog, slug, { ...asked, step: step.id }));
  const versions = useMemo(() => {
    if (!found.data) return null;
    const shown = ({ title, html, text }: Version) => `${title}\n\n${view === "text" ? text : inLines(html)}`;
    const [before, after] = [shown(found.data.before), shown(found.data.after)];
    return { ...sideBySide(before, after), same: before === after };
  }, [found.data, view]);
  return (
    <Dialog wide open onOpenChange={onClose} title={`Before and after “${step.name}”`}>
      <div className="flex">
        <Segmented<View>
          label="Shown as"
          value={view}
          onChange={setView}
          options={[
            { value: "text", label: "Text" },
            { value: "html", label: "HTML" },
          ]}
        />
      </div>
      {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
      {found.isPending && <Loading what="the two texts" rows={6} />}
      {versions && (
        <div className="mt-3 grid gap-4 md:grid-cols-2">
          <Side name="Before" pieces={versions.before} look="bg-madder-wash text-madder line-through" />
          <Side name="After" pieces={versions.after} look="bg-verd-wash text-verd-deep" />
        </div>
      )}
      {versions?.same && (
        <p className="mt-2 text-ink2">
          {view === "text"
            ? "What readers see of the text stays the same. Look at the HTML."
            : "The step leaves title and body of this item as they are."}
        </p>
      )}
    </Dialog>
  );
}
