import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { languagesQuery } from "@/api/editions";
import { keys } from "@/api/keys";
import { countPosts, type Selection } from "@/api/posts";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { WhatGoes } from "./WhatGoes";

interface DeletePostsProps {
  blog: string;
  selection: Selection;
  title: string;
  onClose: () => void;
  onChosen: (choice: { marker: boolean; spare: boolean; alone: boolean }) => void;
}

/** Confirms the deletion of posts, and asks whether their items may return. */
export function DeletePosts({ blog, selection, title, onClose, onChosen }: DeletePostsProps) {
  const [marker, setMarker] = useState(true);
  const [spare, setSpare] = useState(true);
  const [alone, setAlone] = useState(false);
  const speaks = useQuery(languagesQuery(blog)).data?.document.languages.length;
  const counted = useQuery({
    queryKey: keys.posts(blog, "count", selection),
    queryFn: () => countPosts(blog, selection),
    gcTime: 0,
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={title}
      description="They go into the bin, and can be restored for 30 days."
    >
      {counted.error && <ErrorNote error={counted.error} onRetry={counted.refetch} />}
      {counted.isPending && <Loading what="what would go" />}
      {counted.data && <WhatGoes touched={counted.data} spare={spare} onSpare={setSpare} />}
      <fieldset className="mt-4 space-y-1.5">
        <legend className="mb-1 font-semibold">When their items come again</legend>
        <label className="flex gap-2">
          <input
            type="radio"
            name="marker"
            className="accent-verd"
            checked={marker}
            onChange={() => setMarker(true)}
          />
          they stay away: a marker is kept
        </label>
        <label className="flex gap-2">
          <input
            type="radio"
            name="marker"
            className="accent-verd"
            checked={!marker}
            onChange={() => setMarker(false)}
          />
          the next run decides them again
        </label>
      </fieldset>
      {!!speaks && (
        <label className="mt-4 flex gap-2">
          <input
            type="checkbox"
            className="accent-verd"
            checked={alone}
            onChange={(event) => setAlone(event.target.checked)}
          />
          their editions in other languages stay
        </label>
      )}
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="danger" disabled={!counted.data} onClick={() => onChosen({ marker, spare, alone })}>
          Delete
        </Button>
      </div>
    </Dialog>
  );
}
