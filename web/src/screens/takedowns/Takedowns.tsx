import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { takedownsQuery } from "@/api/takedowns";
import { useMay } from "@/api/useRole";
import { Head } from "@/components/Head";
import { PagedSheet } from "@/components/PagedSheet";
import { PAGE } from "@/components/Paging";
import { SettingsTabs } from "@/screens/settings/SettingsTabs";
import { TakedownRow } from "./TakedownRow";

/** The takedowns, as a record that can be shown to those who asked. */
export default function Takedowns() {
  const { blog = "" } = useParams();
  const editor = useMay()("editor");
  const [offset, setOffset] = useState(0);
  const found = useQuery(takedownsQuery(blog, offset, PAGE));
  return (
    <>
      <Head title="Takedowns" facts={<SettingsTabs />} />
      <PagedSheet
        label="Takedowns"
        what="takedowns"
        page={found}
        offset={offset}
        onOffset={setOffset}
        empty={{
          title: "Nothing was withdrawn",
          text: "When somebody asks that their texts go, withdraw a post at its page, or a whole source at the source.",
        }}
      >
        {(row) => <TakedownRow key={row.id} blog={blog} row={row} editor={editor} />}
      </PagedSheet>
    </>
  );
}
