import { useEffect, useState } from "react";
import { useParams } from "react-router";
import type { CampaignDocument } from "@/api/campaigns";
import { ChoosePicture } from "@/screens/media/ChoosePicture";

type Picture = CampaignDocument["shape"]["lead"]["pictures"][number];

interface BlogPicturesProps {
  pictures: readonly Picture[];
  onChange: (pictures: Picture[]) => void;
}

function textOf(pictures: readonly Picture[]): string {
  return pictures.map(({ url, alt }) => (alt ? `${url} ${alt}` : url)).join("\n");
}

/** Parses lines of address and description; lines without an address are ignored. */
function picturesIn(text: string): Picture[] {
  return text.split("\n").flatMap((line) => {
    const [url = "", ...alt] = line.trim().split(/\s+/);
    return /^(https?:\/\/|\/media\/pictures\/)\S+/.test(url) ? [{ url, alt: alt.join(" ") }] : [];
  });
}

/** Pictures of the blog as fallback; an item always gets the same of several. */
export function BlogPictures({ pictures, onChange }: BlogPicturesProps) {
  const { blog = "" } = useParams();
  const [text, setText] = useState(textOf(pictures));
  const [choosing, setChoosing] = useState(false);
  useEffect(() => {
    setText((before) => (textOf(picturesIn(before)) === textOf(pictures) ? before : textOf(pictures)));
  }, [pictures]);
  return (
    <>
      <label className="mt-1 block">
        <span className="text-xs text-ink3">
          Pictures of the blog, one a line: the address, then what it shows. With several, an item always gets
          the same.
        </span>
        <textarea
          rows={Math.min(6, Math.max(2, pictures.length + 1))}
          spellCheck={false}
          value={text}
          placeholder="https://… A night over the ridge"
          className="w-full rounded-md border border-line bg-chalk px-2 py-1 font-mono text-[11.5px] leading-normal"
          onChange={(event) => {
            setText(event.target.value);
            onChange(picturesIn(event.target.value));
          }}
        />
      </label>
      <button
        type="button"
        className="min-h-6 text-xs font-semibold text-verd hover:underline"
        onClick={() => setChoosing(true)}
      >
        Take one from the library
      </button>
      {choosing && (
        <ChoosePicture
          blog={blog}
          onClose={() => setChoosing(false)}
          onChosen={({ url, alt }) => {
            setChoosing(false);
            if (!pictures.some((picture) => picture.url === url)) onChange([...pictures, { url, alt }]);
          }}
        />
      )}
    </>
  );
}
