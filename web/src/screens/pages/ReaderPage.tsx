import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";
import { pageQuery, readerQuery } from "@/api/pages";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { ReaderEditor } from "./ReaderEditor";

/** A saved page reader with its last page. */
export default function ReaderPage() {
  const { blog = "", key = "" } = useParams();
  const [search] = useSearchParams();
  const found = useQuery(readerQuery(blog, key));
  const number = found.data?.page ?? null;
  const page = useQuery({ ...pageQuery(blog, number ?? 0), enabled: number !== null });
  if (found.error) return <ErrorNote error={found.error} onRetry={found.refetch} />;
  if (!found.data || (number !== null && page.isPending)) return <Loading what="the page reader" />;
  const reader = found.data;
  return (
    <ReaderEditor
      key={reader.key}
      blog={blog}
      reader={reader}
      given={reader.document}
      page={page.data ?? null}
      rendered={reader.rendered || search.get("scripts") === "run"}
    />
  );
}
