interface ReadWarning {
  code: string;
  entry: number;
  detail: string;
}

const WORDS: Record<string, string> = {
  no_title: "no title",
  no_link: "no link",
  no_date: "no date",
  date_unreadable: "its date cannot be read; the time of reading counts",
  entry_empty: "nothing in it",
  entry_unreadable: "cannot be read",
  entry_refused: "could not be kept",
  entry_too_costly: "takes too long to read",
  link_too_long: "its link is too long and was left out",
  date_unlikely: "its date cannot be right and was left out",
  too_many_media: "it has more pictures and films than can be kept",
  ill_formed: "not well-formed",
  encoding_differs: "it has another encoding than it says",
  too_many_entries: "it has more entries than can be read",
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
