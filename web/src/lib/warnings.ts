interface ReadWarning {
  code: string;
  entry: number;
  detail: string;
}

const WORDS: Record<string, string> = {
  no_title: "no title",
  no_link: "no link",
  no_date: "no date",
  date_unreadable: "a date that cannot be read: the time it was read counts",
  entry_empty: "nothing in it",
  entry_unreadable: "cannot be read",
  entry_refused: "could not be kept",
  entry_too_costly: "takes too long to read",
  link_too_long: "a link too long to be kept, left out",
  date_unlikely: "a date that cannot be right, left out",
  too_many_media: "more pictures and films than are kept",
  ill_formed: "not well-formed",
  encoding_differs: "another encoding than it says",
  too_many_entries: "more entries than are read",
};

/** Warnings of one kind said once, with how many entries they are about. */
export function warningWords(warnings: readonly ReadWarning[]): string[] {
  const byCode = new Map<string, ReadWarning[]>();
  for (const warning of warnings) byCode.set(warning.code, [...(byCode.get(warning.code) ?? []), warning]);
  return [...byCode].map(([code, all]) => {
    const words = WORDS[code] ?? code;
    const first = all[0];
    if (first?.entry === 0) return `the feed: ${words}${first.detail ? ` (${first.detail})` : ""}`;
    return `${all.length === 1 ? "1 entry" : `${all.length} entries`}: ${words}`;
  });
}
