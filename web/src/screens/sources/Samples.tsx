import type { Checked } from "@/api/sources";
import { moment, plural } from "@/lib/format";

/** The newest items of a tested feed. */
export function Samples({ samples }: { samples: Checked["samples"] }) {
  if (!samples.length)
    return <p className="text-ink3">The feed can be read but has no items at the moment.</p>;
  return (
    <ul aria-label="Newest items">
      {samples.map((sample) => (
        <li
          key={sample.link + sample.title}
          className="flex gap-3 border-t border-line2 py-1.5 first:border-0"
        >
          {sample.picture ? (
            <img
              src={sample.picture}
              alt=""
              className="h-[38px] w-[52px] shrink-0 rounded-[5px] bg-sunk object-cover"
            />
          ) : (
            <span className="flex h-[38px] w-[52px] shrink-0 items-center justify-center rounded-[5px] bg-sunk text-center text-[9px] leading-tight text-ink3">
              no picture
            </span>
          )}
          <span className="min-w-0">
            <span className="block truncate font-medium">{sample.title || "(no title)"}</span>
            <span className="text-[11.5px] text-ink3">
              {sample.published ? moment(sample.published) : "no date"} · {plural(sample.words, "word")}
            </span>
          </span>
        </li>
      ))}
    </ul>
  );
}
