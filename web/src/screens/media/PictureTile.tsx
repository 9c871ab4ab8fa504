import type { Picture } from "@/api/media";
import { plural } from "@/lib/format";

/** One picture of the library, cropped around its focus. */
export function PictureTile({ picture, onOpen }: { picture: Picture; onOpen: () => void }) {
  return (
    <li>
      <button type="button" className="sheet-card block w-full overflow-hidden text-left" onClick={onOpen}>
        <img
          src={picture.small}
          alt={picture.alt}
          loading="lazy"
          className="aspect-[3/2] w-full bg-sunk object-cover"
          style={{ objectPosition: `${picture.focus_x * 100}% ${picture.focus_y * 100}%` }}
        />
        <span className="block px-2.5 py-2">
          <span className="block truncate font-medium">{picture.name}</span>
          <span className="block truncate text-xs text-ink3">
            {picture.width} × {picture.height} ·{" "}
            {picture.shown_by > 0 ? `shown by ${plural(picture.shown_by, "post")}` : "shown by no post"}
          </span>
          {picture.labels.length > 0 && (
            <span className="block truncate text-xs text-ink3">{picture.labels.join(", ")}</span>
          )}
        </span>
      </button>
    </li>
  );
}
