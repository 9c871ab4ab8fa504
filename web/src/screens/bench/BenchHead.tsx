import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Clock, EllipsisVertical } from "lucide-react";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Campaign, CampaignDocument } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { beginRun } from "@/api/runs";
import { useMay } from "@/api/useRole";
import { useEditKeys } from "@/components/editing/useEditKeys";
import { Head } from "@/components/Head";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";
import { MODE_WORDS } from "@/lib/modes";
import { nextRunWords, scheduleWords } from "@/lib/schedule";
import { CheckupDialog } from "@/screens/checkup/CheckupDialog";
import { ScheduleDialog } from "@/screens/schedule/ScheduleDialog";
import { Button } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { Pill } from "@/ui/Pill";
import { useTell } from "@/ui/Toasts";
import { AddressDialog } from "./AddressDialog";
import { AgainDialog } from "./AgainDialog";
import { ArchiveDialog } from "./ArchiveDialog";
import { DefaultsDialog } from "./DefaultsDialog";
import { ForgetDialog } from "./ForgetDialog";
import { NoteDialog } from "./NoteDialog";
import { ProofFacts } from "./over/ProofFacts";
import { RenameDialog } from "./RenameDialog";
import { RevisionsDialog } from "./RevisionsDialog";
import type { BenchState } from "./useBench";
import { YamlDialog } from "./YamlDialog";

type Open =
  | "checkup"
  | "schedule"
  | "rename"
  | "archive"
  | "address"
  | "revisions"
  | "forget"
  | "again"
  | "yaml"
  | "defaults"
  | "note"
  | null;

/** The fields of rules hold text that is not in the rules yet. */
const KEYS = { fieldsUndo: true };

interface BenchHeadProps {
  blog: string;
  campaign: Campaign;
  bench: BenchState;
}

export function BenchHead({ blog, campaign, bench }: BenchHeadProps) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const tell = useTell();
  const [open, setOpen] = useState<Open>(null);
  // A second click can arrive before the first is rendered.
  const begun = useRef(false);
  const { saving } = bench.rules;
  const running = useMutation({
    mutationFn: () => beginRun(blog, campaign.slug),
    onSuccess: (run) => {
      queries.invalidateQueries({ queryKey: keys.runs(blog) });
      navigate(desk.run(blog, run.id));
    },
    onError: (error) => {
      begun.current = false;
      tell(error.message, { tone: "bad" });
    },
  });
  async function save(note: string) {
    await bench.rules.save(note);
    setOpen(null);
  }
  function run() {
    if (begun.current) return;
    begun.current = true;
    running.mutate();
  }
  const load = (document: CampaignDocument) => bench.change(() => document);
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
        busy={running.isPending}
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
      {open === "forget" && <ForgetDialog blog={blog} campaign={campaign} onClose={() => setOpen(null)} />}
      {open === "again" && <AgainDialog blog={blog} campaign={campaign} onClose={() => setOpen(null)} />}
      {open === "rename" && <RenameDialog blog={blog} campaign={campaign} onClose={() => setOpen(null)} />}
      {open === "archive" && <ArchiveDialog blog={blog} campaign={campaign} onClose={() => setOpen(null)} />}
      {open === "address" && <AddressDialog blog={blog} campaign={campaign} onClose={() => setOpen(null)} />}
      {open === "revisions" && (
        <RevisionsDialog blog={blog} campaign={campaign} onLoad={load} onClose={() => setOpen(null)} />
      )}
      {open === "checkup" && (
        <CheckupDialog blog={blog} slug={campaign.slug} name={campaign.name} onClose={() => setOpen(null)} />
      )}
      {open === "schedule" && (
        <ScheduleDialog blog={blog} slug={campaign.slug} name={campaign.name} onClose={() => setOpen(null)} />
      )}
      {open === "note" && (
        <NoteDialog
          revision={campaign.revision + 1}
          busy={saving.state === "sending"}
          onSave={save}
          onClose={() => setOpen(null)}
        />
      )}
      {open === "defaults" && <DefaultsDialog blog={blog} bench={bench} onClose={() => setOpen(null)} />}
      {open === "yaml" && (
        <YamlDialog blog={blog} campaign={campaign} onLoad={load} onClose={() => setOpen(null)} />
      )}
    </Head>
  );
}
