import { Clock, EllipsisVertical } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Campaign } from "@/api/campaigns";
import { useMay } from "@/api/useRole";
import { useEditKeys } from "@/components/editing/useEditKeys";
import { Head } from "@/components/Head";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";
import { MODE_WORDS } from "@/lib/modes";
import { nextRunWords, scheduleWords } from "@/lib/schedule";
import { useRunNow } from "@/screens/campaigns/useRunNow";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { Pill } from "@/ui/Pill";
import { type BenchDialog, BenchDialogs } from "./dialogs/BenchDialogs";
import { ProofFacts } from "./over/ProofFacts";
import type { BenchState } from "./useBench";

/** The fields of rules hold text that is not in the rules yet. */
const KEYS = { fieldsUndo: true };

interface BenchHeadProps {
  blog: string;
  campaign: Campaign;
  bench: BenchState;
}

export function BenchHead({ blog, campaign, bench }: BenchHeadProps) {
  const navigate = useNavigate();
  const [open, setOpen] = useState<BenchDialog>(null);
  const { saving } = bench.rules;
  const { busy: running, run } = useRunNow(blog, campaign.slug);
  async function save(note: string) {
    await bench.rules.save(note);
    setOpen(null);
  }
  const editor = useMay()("editor");
  const mode = bench.document.release.mode;
  const maySave = bench.edited && !bench.proof.error && !bench.rules.conflict.theirs;
  useEditKeys({ undo: bench.undo, redo: bench.redo, save: () => maySave && editor && save("") }, KEYS);
  return (
    <Head
      title={campaign.name}
      facts={
        <>
          <Pill tone={MODE_WORDS[mode].tone}>{MODE_WORDS[mode].words}</Pill>
          <span className="text-ink3">
            revision {campaign.revision}
            {bench.edited && `, ${plural(bench.changes, "change")} not saved`}
          </span>
        </>
      }
    >
      <ProofFacts blog={blog} campaign={campaign} bench={bench} />
      <button
        type="button"
        title={`Schedule: ${scheduleWords(campaign.schedule)}. Next run: ${nextRunWords(campaign)}`}
        className="inline-flex h-7 items-center gap-1 rounded px-1.5 text-ink3 hover:bg-sunk hover:text-ink"
        onClick={() => setOpen("schedule")}
      >
        <Clock size={13} aria-hidden="true" />
        <span className="sr-only">Schedule, next run: </span>
        <span className="sr-only 2xl:not-sr-only">{nextRunWords(campaign)}</span>
      </button>
      <Button
        busy={running}
        disabled={bench.edited || !editor}
        title={
          !editor
            ? "Editors and owners of the blog run campaigns."
            : bench.edited
              ? "A run goes by the saved rules. Save or discard your edits first."
              : undefined
        }
        onClick={run}
      >
        Run now
      </Button>
      <Button
        look="primary"
        busy={saving.state === "sending"}
        disabled={!maySave || !editor}
        title={editor ? undefined : "Editors and owners of the blog save rules."}
        onClick={() => save("")}
      >
        Save as revision {campaign.revision + 1}
      </Button>
      <Menu
        trigger={
          <button
            type="button"
            aria-label="More"
            className="inline-flex size-7 items-center justify-center rounded text-ink2 hover:bg-sunk"
          >
            <EllipsisVertical size={16} />
          </button>
        }
        entries={[
          ...(maySave && editor ? [{ label: "Save with a note", onSelect: () => setOpen("note") }] : []),
          { label: "Why is nothing arriving?", onSelect: () => setOpen("checkup") },
          {
            label: "Its posts",
            onSelect: () =>
              navigate(`${desk.posts(blog)}?${new URLSearchParams({ campaign: campaign.slug })}`),
          },
          { label: "Revisions", onSelect: () => setOpen("revisions") },
          { label: "Rules as YAML", onSelect: () => setOpen("yaml") },
          ...(editor
            ? [
                { label: "Defaults of the blog", onSelect: () => setOpen("defaults") },
                {
                  label: "Bring posts to these rules",
                  onSelect: () => navigate(desk.replay(blog, campaign.slug)),
                },
                { label: "Decide items again", onSelect: () => setOpen("forget") },
                { label: "Run again from nothing", onSelect: () => setOpen("again"), danger: true },
                { label: "Mail address for its runs", onSelect: () => setOpen("address") },
                { label: "Rename", onSelect: () => setOpen("rename") },
                { label: "Archive", onSelect: () => setOpen("archive"), danger: true },
              ]
            : []),
        ]}
      />
      <BenchDialogs
        open={open}
        blog={blog}
        campaign={campaign}
        bench={bench}
        onSave={save}
        onClose={() => setOpen(null)}
      />
    </Head>
  );
}
