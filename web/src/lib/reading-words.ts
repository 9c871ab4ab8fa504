import type { Reading } from "@/api/sources";
import { plural } from "./format";

export type SourceKind = "feed" | "site" | "platform";

/** What a source is read from. */
export function kindOf(source: { reader: string; platform: string }): SourceKind {
  if (source.platform) return "platform";
  return source.reader ? "site" : "feed";
}

/** What came of a reading. */
export function outcome(reading: Reading, kind: SourceKind): string {
  if (reading.error) return reading.detail;
  if (reading.not_modified) return "nothing has changed since the last read";
  if (kind === "platform") return `${plural(reading.found, "item")} found, ${reading.fresh} new`;
  if (kind === "site")
    return reading.found ? `${plural(reading.found, "new article")} read` : "no new article";
  return `${plural(reading.found, "item")} in the feed, ${reading.fresh} new`;
}
