import { useQuery } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { correctionQuery, settleCorrection } from "@/api/posts";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { moment } from "@/lib/format";
import { ChangedValue } from "@/screens/editor/ChangedValue";
import { Button } from "@/ui/Button";

interface CorrectionNoteProps {
  blog: string;
  id: number;
  editor: boolean;
}

/** What the source of a published post has corrected, to be taken over or left. */
export function CorrectionNote({ blog, id, editor }: CorrectionNoteProps) {
  const found = useQuery(correctionQuery(blog, id)).data;
  const settling = useChange((take: boolean) => settleCorrection(blog, id, take), {
    refresh: [keys.post(blog, id), keys.posts(blog), keys.today(blog)],
  });
  if (!found) return null;
  const names = Object.keys(found.after).filter((name) => name !== "spare_leads");
  return (
    <section
      aria-label="Corrected by its source"
      className="mb-4 rounded-[10px] border border-ochre-mark bg-ochre-wash px-4 py-3"
    >
      <h2 className="text-[15px] font-semibold text-ochre">The source has changed it</h2>
      <p className="text-xs text-ink2">
        Read {moment(found.at)}. The post is as it was
        {found.refused && ", and its rules would refuse the item now"}.
      </p>
      <dl className="mt-2 space-y-2 text-[12.5px]">
        {names.map((name) => (
          <ChangedValue key={name} name={name} before={found.before[name]} after={found.after[name]} />
        ))}
      </dl>
      {editor && (
        <div className="mt-3 flex gap-2">
          {names.length > 0 && (
            <Button small look="primary" busy={settling.isPending} onClick={() => settling.mutate(true)}>
              Take it over
            </Button>
          )}
          <Button small onClick={() => settling.mutate(false)}>
            Leave the post
          </Button>
        </div>
      )}
      <FormError error={settling.error} />
    </section>
  );
}
