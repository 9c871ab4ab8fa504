import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { languagesQuery } from "@/api/editions";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { Scroll } from "@/ui/Scroll";
import { LanguagesForm } from "./LanguagesForm";

/** The languages of a blog, and how its editions are made. */
export default function Languages() {
  const { blog = "" } = useParams();
  const owner = useMay()("owner");
  const found = useQuery({ ...languagesQuery(blog), enabled: owner });
  return (
    <>
      <Head
        title="Languages"
        facts={
          <span className="text-ink3">each with its pages, feeds and site map, and editions of posts</span>
        }
      />
      <Scroll label="Languages" className="min-h-0 flex-1 p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {owner && found.isPending && <Loading what="the languages" rows={3} />}
        {!owner && <Empty title="For owners" text="Owners of the blog set its languages. Ask one of them." />}
        {found.data && owner && <LanguagesForm key={blog} blog={blog} languages={found.data} />}
      </Scroll>
    </>
  );
}
