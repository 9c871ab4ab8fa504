import type { Campaign, CampaignDocument } from "@/api/campaigns";
import { CheckupDialog } from "@/screens/checkup/CheckupDialog";
import { ScheduleDialog } from "@/screens/schedule/ScheduleDialog";
import type { BenchState } from "../useBench";
import { AddressDialog } from "./AddressDialog";
import { AgainDialog } from "./AgainDialog";
import { ArchiveDialog } from "./ArchiveDialog";
import { DefaultsDialog } from "./DefaultsDialog";
import { ForgetDialog } from "./ForgetDialog";
import { NoteDialog } from "./NoteDialog";
import { RenameDialog } from "./RenameDialog";
import { RevisionsDialog } from "./RevisionsDialog";
import { YamlDialog } from "./YamlDialog";

export type BenchDialog =
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

interface BenchDialogsProps {
  open: BenchDialog;
  blog: string;
  campaign: Campaign;
  bench: BenchState;
  onSave: (note: string) => Promise<void>;
  onClose: () => void;
}

/** The dialog of the bench that is open. */
export function BenchDialogs({ open, blog, campaign, bench, onSave, onClose }: BenchDialogsProps) {
  const load = (document: CampaignDocument) => bench.change(() => document);
  const of = { blog, campaign, onClose };
  return (
    <>
      {open === "forget" && <ForgetDialog {...of} />}
      {open === "again" && <AgainDialog {...of} />}
      {open === "rename" && <RenameDialog {...of} />}
      {open === "archive" && <ArchiveDialog {...of} />}
      {open === "address" && <AddressDialog {...of} />}
      {open === "revisions" && <RevisionsDialog {...of} onLoad={load} />}
      {open === "checkup" && (
        <CheckupDialog blog={blog} slug={campaign.slug} name={campaign.name} onClose={onClose} />
      )}
      {open === "schedule" && (
        <ScheduleDialog blog={blog} slug={campaign.slug} name={campaign.name} onClose={onClose} />
      )}
      {open === "note" && (
        <NoteDialog
          revision={campaign.revision + 1}
          busy={bench.rules.saving.state === "sending"}
          onSave={onSave}
          onClose={onClose}
        />
      )}
      {open === "defaults" && <DefaultsDialog blog={blog} bench={bench} onClose={onClose} />}
      {open === "yaml" && <YamlDialog {...of} onLoad={load} />}
    </>
  );
}
