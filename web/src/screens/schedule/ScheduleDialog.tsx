import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { type Campaign, campaignQuery } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { type Schedule, setSchedule, setTimeZone, timeZonesQuery } from "@/api/schedules";
import { useMay } from "@/api/useRole";
import { ErrorNote } from "@/components/ErrorNote";
import { guardWords } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { SaveButtons } from "@/components/editing/SaveButtons";
import { useEdited } from "@/components/editing/useEdited";
import { Loading } from "@/components/Loading";
import type { Version } from "@/lib/editing/document";
import { Button } from "@/ui/Button";
import { Dialog, DialogClose } from "@/ui/Dialog";
import { WordDate } from "@/ui/WordDate";
import { WordText } from "@/ui/WordText";
import { NextTimes } from "./NextTimes";
import { WhenFields } from "./WhenFields";

interface ScheduleDialogProps {
  blog: string;
  slug: string;
  name: string;
  onClose: () => void;
}

interface Planned {
  schedule: Schedule;
  paused: boolean;
  timeZone: string;
}

function versionOf({ schedule, schedule_version, paused, time_zone }: Campaign): Version<Planned> {
  return { number: schedule_version, value: { schedule, paused, timeZone: time_zone } };
}

const IN_DIALOG = { inDialog: true, fieldsUndo: true };

interface ScheduleFormProps extends ScheduleDialogProps {
  campaign: Campaign;
  /** Is told what to say before the dialog closes. */
  onUnsaved: (words: string | undefined) => void;
}

function ScheduleForm({ blog, slug, campaign, onClose, onUnsaved }: ScheduleFormProps) {
  const queries = useQueryClient();
  const may = useMay();
  const zones = useQuery(timeZonesQuery).data ?? [];
  // A half-typed name is not a zone.
  const zoneOf = (typed: string, was: string) => (zones.length === 0 || zones.includes(typed) ? typed : was);
  const edited = useEdited<Planned, Campaign>({
    document: `schedule ${blog}/${slug}`,
    saved: useMemo(() => versionOf(campaign), [campaign]),
    save: async ({ schedule, paused, timeZone }, version, was) => {
      const zone = zoneOf(timeZone, was.timeZone);
      if (zone !== was.timeZone) await setTimeZone(blog, zone);
      return setSchedule(blog, slug, { schedule, paused, version });
    },
    versionOf,
    fetchLatest: async () =>
      versionOf(await queries.fetchQuery({ ...campaignQuery(blog, slug), staleTime: 0 })),
    refresh: [keys.campaigns(blog)],
    onSaved: (saved) => {
      queries.setQueryData(campaignQuery(blog, slug).queryKey, saved);
      onClose();
    },
  });
  const { schedule, paused, timeZone } = edited.now;
  const set = (next: Partial<Planned>) => edited.edit((before) => ({ ...before, ...next }));
  const setDays = (next: Partial<Schedule>) => set({ schedule: { ...schedule, ...next } });
  const byHand = schedule.when.kind === "hand";
  const zone = zoneOf(timeZone, edited.saved.timeZone);
  const words = edited.changed ? guardWords(edited) : undefined;
  useEffect(() => onUnsaved(words), [words, onUnsaved]);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        edited.save();
      }}
    >
      <EditNotices edited={edited} what="the schedule" />
      <WhenFields when={schedule.when} onChange={(when) => setDays({ when })} />
      {!byHand && (
        <div className="mt-3 space-y-3 leading-loose">
          <p>
            From{" "}
            <WordDate
              label="First day"
              value={schedule.first_day ?? null}
              none="now on"
              onChange={(first_day) => setDays({ first_day })}
            />{" "}
            until{" "}
            <WordDate
              label="Last day"
              value={schedule.last_day ?? null}
              none="it is changed"
              onChange={(last_day) => setDays({ last_day })}
            />
            , by the clock of{" "}
            {may("owner") ? (
              <WordText
                label="Time zone of the blog"
                value={timeZone}
                known={zones}
                placeholder="UTC"
                longest={64}
                onChange={(next) => set({ timeZone: next })}
              />
            ) : (
              <span title="An owner of the blog sets its time zone.">{timeZone}</span>
            )}
            {zone !== edited.saved.timeZone && (
              <span className="block text-xs leading-normal text-ochre">
                This changes the time zone of the blog: all its campaigns follow.
              </span>
            )}
          </p>
          <label className="flex items-center gap-2 leading-normal">
            <input
              type="checkbox"
              checked={paused}
              onChange={(event) => set({ paused: event.target.checked })}
            />
            Paused: it keeps its schedule and does not run until it is resumed
          </label>
          <div className="leading-normal">
            <NextTimes blog={blog} schedule={schedule} timeZone={zone} />
          </div>
        </div>
      )}
      <div className="mt-5 flex flex-wrap items-center justify-end gap-2">
        <DialogClose asChild>
          <Button>Cancel</Button>
        </DialogClose>
        {may("editor") && (
          <SaveButtons edited={edited} what="the schedule" label="Save the schedule" keys={IN_DIALOG} />
        )}
      </div>
    </form>
  );
}

/** The schedule of a campaign, separate from its rules. */
export function ScheduleDialog(props: ScheduleDialogProps) {
  const campaign = useQuery(campaignQuery(props.blog, props.slug));
  const [unsaved, setUnsaved] = useState<string>();
  return (
    <Dialog
      open
      unsaved={unsaved}
      onOpenChange={props.onClose}
      title={`Schedule of “${props.name}”`}
      description="When it runs by itself. The rules stay as they are."
    >
      {campaign.error && <ErrorNote error={campaign.error} onRetry={campaign.refetch} />}
      {campaign.isPending && <Loading what="the schedule" rows={4} />}
      {campaign.data && <ScheduleForm {...props} campaign={campaign.data} onUnsaved={setUnsaved} />}
    </Dialog>
  );
}
