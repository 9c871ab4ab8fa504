import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { keys } from "@/api/keys";
import { addPicture } from "@/api/media";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";

interface Progress {
  done: number;
  of: number;
  faults: string[];
}

/** Uploads several pictures in turn; refused ones are named with the reason. */
export function AddPictures({ blog }: { blog: string }) {
  const queries = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [progress, setProgress] = useState<Progress | null>(null);
  const busy = progress !== null && progress.done < progress.of;

  async function add(files: File[]) {
    const faults: string[] = [];
    for (const [place, file] of files.entries()) {
      setProgress({ done: place, of: files.length, faults: [...faults] });
      try {
        await addPicture(blog, file);
      } catch (error) {
        faults.push((error as Error).message);
      }
    }
    setProgress({ done: files.length, of: files.length, faults });
    queries.invalidateQueries({ queryKey: keys.pictures(blog) });
  }

  return (
    <>
      <Button look="primary" busy={busy} onClick={() => input.current?.click()}>
        Add pictures
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        aria-label="Pictures to add"
        accept="image/*"
        className="hidden"
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          if (files.length) add(files);
        }}
      />
      <span aria-live="polite">
        {busy && `${progress.done + 1} of ${progress.of}…`}
        {progress && !busy && `${plural(progress.of - progress.faults.length, "picture")} added.`}
      </span>
      {progress?.faults.map((fault) => (
        <p key={fault} role="alert" className="basis-full text-madder">
          {fault}
        </p>
      ))}
    </>
  );
}
