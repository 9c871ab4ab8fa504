import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { blogQuery } from "@/api/blogs";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { SettingsTabs } from "../SettingsTabs";
import { AppearanceForm } from "./AppearanceForm";

/** The look of a blog, with its front beside it. */
export default function Appearance() {
  const { blog = "" } = useParams();
  const found = useQuery(blogQuery(blog));
  const may = useMay();
  return (
    <>
      <Head title="Look of the blog" facts={<SettingsTabs />} />
      {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
      {found.isPending && <Loading what="the blog" rows={4} />}
      {found.data && !may("owner") && (
        <Empty title="For owners" text="Owners of the blog choose its look. Ask one of them." />
      )}
      {found.data && may("owner") && <AppearanceForm key={found.data.slug} blog={found.data} />}
    </>
  );
}
