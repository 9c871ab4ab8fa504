import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { freedQuery, type Keeping, type KeepingState, keepingQuery, saveKeeping } from "@/api/keeping";
import { keys } from "@/api/keys";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { ON_SCREEN, SaveButtons } from "@/components/editing/SaveButtons";
import { useEdited } from "@/components/editing/useEdited";
import { FormError } from "@/components/FormError";
import type { Version } from "@/lib/editing/document";
import { useSettled } from "@/lib/useSettled";
import { useTell } from "@/ui/Toasts";
import { RecordRow } from "./RecordRow";

function versionOf({ version, keeping }: KeepingState): Version<Keeping> {
  return { number: version, value: keeping };
}

/** The days for each kind of record, with what goes in the next night. */
export function RetentionForm({ blog, state }: { blog: string; state: KeepingState }) {
  const tell = useTell();
  const queries = useQueryClient();
  const edited = useEdited<Keeping, KeepingState>({
    document: `keeping ${blog}`,
    saved: useMemo(() => versionOf(state), [state]),
    save: (keeping, version) => saveKeeping(blog, keeping, version),
    versionOf,
    fetchLatest: async () => versionOf(await queries.fetchQuery({ ...keepingQuery(blog), staleTime: 0 })),
    refresh: [keys.keeping(blog), keys.blog(blog)],
    onSaved: () => tell("Saved. Older records go in the coming nights."),
  });
  const freed = useQuery(freedQuery(blog, useSettled(edited.now)));
  return (
    <form
      className="mx-auto max-w-3xl space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        edited.save();
      }}
    >
      <EditGuard edited={edited} />
      <EditNotices edited={edited} what="the retention" fields={["keeping"]} />
      <p className="text-ink2">
        Posts, items and all counts stay. What goes are the details behind them, in the night, some hundred at
        a time. It cannot be brought back.
      </p>
      <ul aria-label="Kinds of records" className="sheet-card">
        {state.records.map((kept) => (
          <RecordRow
            key={kept.record}
            kept={kept}
            days={edited.now[kept.record] ?? null}
            freed={freed.data?.find(({ record }) => record === kept.record)}
            onChange={(days) => edited.edit((before) => ({ ...before, [kept.record]: days }))}
          />
        ))}
      </ul>
      <FormError error={freed.error} />
      <div className="flex items-center justify-end gap-2">
        <SaveButtons edited={edited} what="the retention" keys={ON_SCREEN} />
      </div>
    </form>
  );
}
