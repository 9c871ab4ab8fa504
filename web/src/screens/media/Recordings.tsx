import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { recordingsQuery } from "@/api/media";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { LibraryTabs } from "@/screens/library/LibraryTabs";
import { Scroll } from "@/ui/Scroll";
import { RecordingRow } from "./RecordingRow";

/** The films and sound that the blog copies, with the progress of each. */
export default function Recordings() {
  const { blog = "" } = useParams();
  const may = useMay();
  const [offset, setOffset] = useState(0);
  const found = useQuery(recordingsQuery(blog, offset, PAGE));
  return (
    <>
      <Head title="Films and sound" facts={<LibraryTabs />} />
      <Scroll label="Films and sound" className="min-h-0 flex-1 p-5">
        <div className="mx-auto max-w-4xl">
          {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
          {found.isPending && <Loading what="films and sound" />}
          {found.data?.total === 0 && (
            <Empty
              title="Nothing is copied"
              text="A campaign can keep copies of the films and sound in its posts (Shape, Copies), where their source allows the full text."
            />
          )}
          {found.data && found.data.total > 0 && (
            <div className="sheet-card">
              <ul aria-label="Films and sound">
                {found.data.rows.map((row) => (
                  <RecordingRow key={row.id} blog={blog} row={row} editor={may("editor")} />
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
