import { useEffect, useMemo, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { type OpenedPage, openPage } from "@/api/pages";
import { useChange } from "@/api/useChange";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { Button } from "@/ui/Button";
import { newDocument } from "./document";
import { ReaderEditor } from "./ReaderEditor";

function proposed(page: OpenedPage) {
  const document = newDocument(page.url);
  const best = page.lists[0];
  return best ? { ...document, list_page: best.list_page } : document;
}

/** A new page reader, begun with an address and the proposal for its page. */
export default function NewReader() {
  const { blog = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const [address, setAddress] = useState(search.get("url") ?? "");
  const [rendered, setRendered] = useState(search.has("scripts"));
  const opening = useChange((url: string) => openPage(blog, url, rendered), {
    // A reload opens the page again, and the edits come back from their draft.
    onDone: (_, url) => setSearch({ url, opened: "", ...(rendered && { scripts: "" }) }, { replace: true }),
  });
  const { mutate } = opening;
  const [again] = useState(search.has("opened") ? search.get("url") : null);
  useEffect(() => {
    if (again) mutate(again);
  }, [again, mutate]);
  const page = opening.data;
  const given = useMemo(() => page && proposed(page), [page]);
  if (page && given)
    return <ReaderEditor blog={blog} reader={null} given={given} page={page} rendered={rendered} />;
  if (again && !opening.error) return <Loading what="the page" />;
  return (
    <>
      <Head title="New page reader" facts={<span className="text-ink3">for a site without a feed</span>} />
      <div className="min-h-0 flex-1 overflow-auto p-5">
        <form
          className="sheet-card max-w-2xl p-4"
          onSubmit={(event) => {
            event.preventDefault();
            const text = address.trim();
            if (text) opening.mutate(/^https?:\/\//.test(text) ? text : `https://${text}`);
          }}
        >
          <label className="block">
            <span className="font-semibold">Address of a page that lists articles</span>
            <input
              value={address}
              spellCheck={false}
              placeholder="https://observatory.example/bulletin/"
              onChange={(event) => setAddress(event.target.value)}
              className="mt-1 w-full rounded-[7px] border border-line bg-chalk px-2.5 py-1.5 font-mono text-xs"
            />
          </label>
          <label className="mt-2 flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-verd"
              checked={rendered}
              onChange={(event) => setRendered(event.target.checked)}
            />
            Let its scripts run first, for a page that is empty without them. That takes some seconds a page.
          </label>
          <div className="mt-2 flex items-center gap-3">
            <Button type="submit" look="primary" busy={opening.isPending} disabled={!address.trim()}>
              Open the page
            </Button>
            <span className="text-xs text-ink3">
              The front page of a site or one of its sections. Its robots.txt is asked first. The list, the
              dates and the pictures are proposed; you agree, or point at others.
            </span>
          </div>
          {opening.error && (
            <p role="alert" className="mt-3 text-madder">
              {opening.error.message}
            </p>
          )}
        </form>
      </div>
    </>
  );
}
