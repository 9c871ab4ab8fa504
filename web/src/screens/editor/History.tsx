import { useQuery } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { historyQuery, restoreVersion } from "@/api/posts";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { ErrorNote } from "@/components/ErrorNote";
import { FormError } from "@/components/FormError";
import { Loading } from "@/components/Loading";
import { moment } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { Scroll } from "@/ui/Scroll";
import { ChangedValue } from "./ChangedValue";

interface HistoryProps {
  blog: string;
  id: number;
  /** The version of the post as it is saved now. */
  version: number;
  dirty: boolean;
}

const DID: Record<string, string> = {
  moved: "decided about it",
  edited: "edited it",
  written: "wrote it",
  category: "moved it to another category",
  tags: "changed its tags",
  byline: "set its byline",
  binned: "put it into the bin",
  restored: "restored it",
  edition: "made it again from its original",
  replayed: "brought it to the rules",
  corrected: "followed what its source corrected",
  taken_back: "took a change back",
};
const UNSEEN = new Set(["edited", "out_at", "binned_at", "revision_id", "marker", "spare_leads"]);

/** The changes of a post, latest first, with a way back to each version. */
export function History({ blog, id, version, dirty }: HistoryProps) {
  const editor = useMay()("editor");
  const history = useQuery(historyQuery(blog, id));
  const restoring = useChange((wanted: number) => restoreVersion(blog, id, wanted, version), {
    refresh: [keys.post(blog, id), keys.posts(blog)],
  });
  const known = Math.max(
    1,
    ...(history.data ?? []).filter(({ kept }) => !kept).map((entry) => entry.version),
  );
  const back = (wanted: number, name: string) =>
    editor &&
    wanted >= known && (
      <Confirm
        trigger={
          <Button small busy={restoring.isPending} disabled={dirty}>
            Go back to this
          </Button>
        }
        title={`Go back to ${name}?`}
        text="Texts, names, address and date become what they were. It is one more change, and can be undone so."
        action="Go back"
        onConfirm={() => restoring.mutate(wanted)}
      />
    );
  return (
    <Scroll label="History" className="min-h-0 flex-1 p-4">
      {history.error && <ErrorNote error={history.error} onRetry={history.refetch} />}
      {history.isPending && <Loading what="the history" />}
      {dirty && (
        <p className="mb-2 text-xs text-plum">Save or undo your edits before you go back to a version.</p>
      )}
      <FormError error={restoring.error} />
      <ol aria-label="History" className="space-y-4">
        {history.data?.map((entry) => (
          <li key={entry.version}>
            <p className="flex items-center gap-2">
              <span className="min-w-0 flex-1">
                <span className="font-medium">{entry.by || "The server"}</span>{" "}
                {DID[entry.action] ?? entry.action}
                <span className="block text-xs text-ink3">
                  {moment(entry.at)} · version {entry.version}
                  {entry.why && ` · “${entry.why}”`}
                </span>
              </span>
              {entry.version < version && back(entry.version, `version ${entry.version}`)}
            </p>
            {!entry.kept && (
              <p className="mt-1 text-xs text-ink3">What it was before and after is not kept any more.</p>
            )}
            <dl className="mt-1 space-y-1 border-l-2 border-line2 pl-3 text-xs">
              {Object.keys(entry.after)
                .filter((name) => !UNSEEN.has(name))
                .map((name) => (
                  <ChangedValue
                    key={name}
                    name={name}
                    before={entry.before[name]}
                    after={entry.after[name]}
                  />
                ))}
            </dl>
          </li>
        ))}
        {history.data && (
          <li className="flex items-center gap-2">
            <span className="min-w-0 flex-1">
              <span className="font-medium">{version > 1 ? "As it was made" : "Nobody has changed it."}</span>
              {version > 1 && (
                <span className="block text-xs text-ink3">by the rules, or when it was written</span>
              )}
            </span>
            {version > 1 && back(1, "what was made")}
          </li>
        )}
      </ol>
    </Scroll>
  );
}
