import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { takedownsQuery } from "@/api/takedowns";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { SettingsTabs } from "@/screens/settings/SettingsTabs";
import { Scroll } from "@/ui/Scroll";
import { TakedownRow } from "./TakedownRow";

/** What was withdrawn because somebody asked, as a record that can be shown to them. */
export default function Takedowns() {
  const { blog = "" } = useParams();
  const editor = useMay()("editor");
  const [offset, setOffset] = useState(0);
  const found = useQuery(takedownsQuery(blog, offset, PAGE));
  return (
    <>
      <Head title="Takedowns" facts={<SettingsTabs />} />
      <Scroll label="Takedowns" className="min-h-0 flex-1 p-5">
        <div className="mx-auto max-w-4xl">
          {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
          {found.isPending && <Loading what="takedowns" />}
          {found.data?.total === 0 && (
            <Empty
              title="Nothing was withdrawn"
              text="When somebody asks that their texts go, withdraw a post at its page, or a whole source at the source."
            />
          )}
          {found.data && found.data.total > 0 && (
            <div className="sheet-card">
              <ul aria-label="Takedowns">
                {found.data.rows.map((row) => (
                  <TakedownRow key={row.id} blog={blog} row={row} editor={editor} />
                ))}
              </ul>
              <Paging offset={offset} size={PAGE} total={found.data.total} onChange={setOffset} />
            </div>
          )}
        </div>
      </Scroll>
    </>
  );
}
