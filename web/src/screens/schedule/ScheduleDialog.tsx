import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { campaignQuery } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { type Schedule, setSchedule, setTimeZone, timeZonesQuery } from "@/api/schedules";
import { useMay } from "@/api/useRole";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
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

function ScheduleForm({ blog, slug, begun, onClose }: ScheduleDialogProps & { begun: Planned }) {
  const queries = useQueryClient();
  const may = useMay();
  const zones = useQuery(timeZonesQuery).data ?? [];
  const [{ schedule, paused, timeZone }, setPlanned] = useState(begun);
  const set = (next: Partial<Planned>) => setPlanned((before) => ({ ...before, ...next }));
  const setDays = (next: Partial<Schedule>) => set({ schedule: { ...schedule, ...next } });
  const byHand = schedule.when.kind === "hand";
  // A half-typed name is not a zone.
  const zone = zones.length === 0 || zones.includes(timeZone) ? timeZone : begun.timeZone;
  const saving = useMutation({
    mutationFn: async () => {
      if (zone !== begun.timeZone) await setTimeZone(blog, zone);
      return setSchedule(blog, slug, { schedule, paused });
    },
    onSuccess: (saved) => {
      queries.setQueryData(campaignQuery(blog, slug).queryKey, saved);
      queries.invalidateQueries({ queryKey: keys.campaigns(blog) });
      onClose();
    },
  });
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        saving.mutate();
      }}
    >
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
            {zone !== begun.timeZone && (
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
      {saving.error && <ErrorNote error={saving.error} />}
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        {may("editor") && (
          <Button type="submit" look="primary" busy={saving.isPending}>
            Save the schedule
          </Button>
        )}
      </div>
    </form>
  );
}

/** The schedule of a campaign, separate from its rules. */
export function ScheduleDialog(props: ScheduleDialogProps) {
  const campaign = useQuery(campaignQuery(props.blog, props.slug));
  const found = campaign.data;
  return (
    <Dialog
      open
      onOpenChange={props.onClose}
      title={`Schedule of “${props.name}”`}
      description="When it runs by itself. The rules stay as they are."
    >
      {campaign.error && <ErrorNote error={campaign.error} onRetry={campaign.refetch} />}
      {campaign.isPending && <Loading what="the schedule" rows={4} />}
      {found && (
        <ScheduleForm
          {...props}
          begun={{ schedule: found.schedule, paused: found.paused, timeZone: found.time_zone }}
        />
      )}
    </Dialog>
  );
}
