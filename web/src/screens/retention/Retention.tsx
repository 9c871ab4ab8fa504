import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { keepingQuery } from "@/api/keeping";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { Scroll } from "@/ui/Scroll";
import { RetentionForm } from "./RetentionForm";

/** For how long the records of a blog are kept. */
export default function Retention() {
  const { blog = "" } = useParams();
  const owner = useMay()("owner");
  const found = useQuery({ ...keepingQuery(blog), enabled: owner });
  return (
    <>
      <Head title="Retention" facts={<span className="text-ink3">for how long records are kept</span>} />
      <Scroll label="Retention" className="min-h-0 flex-1 p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {owner && found.isPending && <Loading what="what is kept" rows={6} />}
        {!owner && (
          <Empty
            title="For owners"
            text="Owners of the blog set for how long records are kept. Ask one of them."
          />
        )}
        {found.data && owner && <RetentionForm key={blog} blog={blog} state={found.data} />}
      </Scroll>
    </>
  );
}
