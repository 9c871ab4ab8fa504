import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Picture, picturesQuery } from "@/api/media";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { Dialog } from "@/ui/Dialog";
import { AddPictures } from "./AddPictures";
import { PictureTile } from "./PictureTile";

interface ChoosePictureProps {
  blog: string;
  onClose: () => void;
  onChosen: (picture: Picture) => void;
}

/** Chooses a picture of the blog's library, or adds one first. */
export function ChoosePicture({ blog, onClose, onChosen }: ChoosePictureProps) {
  const [search, setSearch] = useState("");
  const [offset, setOffset] = useState(0);
  const found = useQuery(picturesQuery(blog, { search, label: "", uploaded: false, offset }, PAGE));
  return (
    <Dialog open wide onOpenChange={onClose} title="Choose a picture">
      <div className="mb-4 flex flex-wrap items-center gap-3">
        <SearchBox
          label="Find a picture"
          value={search}
          onChange={(text) => {
            setSearch(text);
            setOffset(0);
          }}
        />
        <AddPictures blog={blog} />
      </div>
      {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
      {found.isPending && <Loading what="pictures" />}
      {found.data?.total === 0 && (
        <Empty title="No picture found" text="Add one, or search for other words." />
      )}
      <ul aria-label="Pictures" className="grid grid-cols-[repeat(auto-fill,minmax(170px,1fr))] gap-3">
        {found.data?.rows.map((picture) => (
          <PictureTile key={picture.id} picture={picture} onOpen={() => onChosen(picture)} />
        ))}
      </ul>
      {found.data && <Paging offset={offset} size={PAGE} total={found.data.total} onChange={setOffset} />}
    </Dialog>
  );
}
