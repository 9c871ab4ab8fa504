import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { type Picture, picturesQuery } from "@/api/media";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { LibraryTabs } from "@/screens/library/LibraryTabs";
import { Scroll } from "@/ui/Scroll";
import { WordSelect } from "@/ui/WordSelect";
import { AddPictures } from "./AddPictures";
import { CopyTrouble } from "./CopyTrouble";
import { PictureDialog } from "./PictureDialog";
import { PictureTile } from "./PictureTile";

const ANY = "-any-";
const WHICH = [
  { value: "all", label: "all pictures" },
  { value: "uploaded", label: "uploads" },
] as const;

/** The pictures of the blog: copies and uploads. */
export default function Pictures() {
  const { blog = "" } = useParams();
  const may = useMay();
  const [filter, setFilter] = useState({ search: "", label: "", uploaded: false, offset: 0 });
  const [opened, setOpened] = useState<Picture | null>(null);
  const found = useQuery(picturesQuery(blog, filter, PAGE));
  const narrow = (next: Partial<typeof filter>) => setFilter({ ...filter, offset: 0, ...next });
  const narrowed = Boolean(filter.search || filter.label || filter.uploaded);
  return (
    <>
      <Head title="Pictures" facts={<LibraryTabs />}>
        <SearchBox label="Find a picture" value={filter.search} onChange={(search) => narrow({ search })} />
      </Head>
      <Scroll label="Pictures" className="min-h-0 flex-1 p-5">
        <div className="mx-auto max-w-6xl space-y-4">
          <div className="flex flex-wrap items-center gap-3 text-ink3">
            {may("editor") && <AddPictures blog={blog} />}
            <p>
              <WordSelect
                label="Which pictures"
                value={filter.uploaded ? "uploaded" : "all"}
                options={WHICH}
                onChange={(which) => narrow({ uploaded: which === "uploaded" })}
              />
              {(found.data?.labels.length ?? 0) > 0 && (
                <>
                  , with{" "}
                  <WordSelect
                    label="Label"
                    value={filter.label || ANY}
                    options={[
                      { value: ANY, label: "any label" },
                      ...(found.data?.labels ?? []).map((label) => ({ value: label, label })),
                    ]}
                    onChange={(label) => narrow({ label: label === ANY ? "" : label })}
                  />
                </>
              )}
            </p>
          </div>
          <CopyTrouble blog={blog} editor={may("editor")} />
          {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
          {found.isPending && <Loading what="pictures" />}
          {found.data?.total === 0 && (
            <Empty
              title={narrowed ? "No picture found" : "No picture yet"}
              text={
                narrowed
                  ? "Search for other words."
                  : "Add some, or let a campaign keep copies of what its posts show (Shape, Copies)."
              }
            />
          )}
          {found.data && found.data.total > 0 && (
            <>
              <ul
                aria-label="Pictures"
                className="grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-4"
              >
                {found.data.rows.map((picture) => (
                  <PictureTile key={picture.id} picture={picture} onOpen={() => setOpened(picture)} />
                ))}
              </ul>
              <Paging
                order="newest first"
                offset={filter.offset}
                size={PAGE}
                total={found.data.total}
                onChange={(offset) => setFilter({ ...filter, offset })}
              />
            </>
          )}
        </div>
      </Scroll>
      {opened && (
        <PictureDialog blog={blog} picture={opened} editor={may("editor")} onClose={() => setOpened(null)} />
      )}
    </>
  );
}
