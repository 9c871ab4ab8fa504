import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { blogQuery } from "@/api/blogs";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { Scroll } from "@/ui/Scroll";
import { BlogForm } from "./BlogForm";
import { RemoveBlog } from "./RemoveBlog";
import { SettingsTabs } from "./SettingsTabs";

/** The settings of a blog. */
export default function BlogSettings() {
  const { blog = "" } = useParams();
  const found = useQuery(blogQuery(blog));
  const may = useMay();
  return (
    <>
      <Head title="Blog settings" facts={<SettingsTabs />} />
      <Scroll label="Settings" className="min-h-0 flex-1 p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {found.isPending && <Loading what="the blog" rows={4} />}
        {found.data && !may("owner") && (
          <Empty
            title="For owners"
            text="Owners of the blog set its name, language and time zone. Ask one of them."
          />
        )}
        {found.data && may("owner") && (
          <div className="mx-auto max-w-2xl space-y-4">
            <BlogForm key={found.data.slug} blog={found.data} />
            <RemoveBlog blog={found.data} />
          </div>
        )}
      </Scroll>
    </>
  );
}
