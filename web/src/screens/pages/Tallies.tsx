import type { Reader } from "@/api/pages";
import { plural } from "@/lib/format";

/** The number of articles in each recent reading, as bars. */
export function Tallies({ tallies }: { tallies: Reader["tallies"] }) {
  if (!tallies.length) return null;
  const counts = tallies.map(({ counts }) => counts.link ?? 0);
  const most = Math.max(...counts, 1);
  return (
    <section aria-label="Last readings">
      <h3 className="font-semibold">Last {plural(tallies.length, "reading")}</h3>
      <div className="mt-1.5 flex h-12 items-end gap-1" aria-hidden>
        {counts.map((count, place) => (
          <span
            // biome-ignore lint/suspicious/noArrayIndexKey: readings have no name but their place
            key={place}
            className={count ? "w-3 bg-verd" : "w-3 bg-madder"}
            style={{ height: `${Math.max(6, (count / most) * 100)}%` }}
          />
        ))}
      </div>
      <p className="mt-1 text-xs text-ink3">Articles that the list named: {counts.join(", ")}.</p>
    </section>
  );
}
