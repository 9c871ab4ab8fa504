import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { recordingsQuery } from "@/api/media";
import { useMay } from "@/api/useRole";
import { Head } from "@/components/Head";
import { PagedSheet } from "@/components/PagedSheet";
import { PAGE } from "@/components/Paging";
import { LibraryTabs } from "@/screens/library/LibraryTabs";
import { RecordingRow } from "./RecordingRow";

/** The films and sound that the blog copies, with the progress of each. */
export default function Recordings() {
  const { blog = "" } = useParams();
  const editor = useMay()("editor");
  const [offset, setOffset] = useState(0);
  const found = useQuery(recordingsQuery(blog, offset, PAGE));
  return (
    <>
      <Head title="Films and sound" facts={<LibraryTabs />} />
      <PagedSheet
        label="Films and sound"
        what="films and sound"
        page={found}
        offset={offset}
        onOffset={setOffset}
        empty={{
          title: "Nothing is copied",
          text: "A campaign can keep copies of the films and sound in its posts (Shape, Copies), where their source allows the full text.",
        }}
      >
        {(row) => <RecordingRow key={row.id} blog={blog} row={row} editor={editor} />}
      </PagedSheet>
    </>
  );
}
