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
  title_too_long: "its title is too long and was cut",
  too_many_facts: "it states more values than can be kept",
  fact_too_long: "a value that it states is too long and was cut",
  too_many_media: "it has more pictures and films than can be kept",
  ill_formed: "not well-formed",
  encoding_differs: "it has another encoding than it says",
  section_unread: "a list page could not be read",
  article_unread: "an article could not be read",
  part_unread: "a further part of an article could not be read",
  more_articles: "there are more new articles than are read at once; the next reading goes on",
  page_consent: "a consent page came instead of the article",
  page_login: "a log-in page came instead of the article",
  page_paywall: "the article is behind a pay-wall",
  page_error: "an error page came instead of the article",
  page_scripted: "the article is drawn by scripts: without them its page is empty",
  too_costly: "it takes too long to read",
  too_large: "its page is too large",
  too_deep: "its page nests its elements too deep",
  words_unread: "not all pages could be read; the next reading goes on there",
  page_repeats: "a page came for the second time, and the reading ended there",
  too_many_entries: "it has more entries than can be read",
};

/** Warnings of a feed as a whole. */
const FEED = new Set(["ill_formed", "encoding_differs", "too_many_entries"]);

/** Warnings by kind, with the number of their entries. */
export function warningWords(warnings: readonly ReadWarning[]): string[] {
  const byCode = new Map<string, ReadWarning[]>();
  for (const warning of warnings) byCode.set(warning.code, [...(byCode.get(warning.code) ?? []), warning]);
  return [...byCode].map(([code, all]) => {
    const words = WORDS[code] ?? code;
    const first = all[0];
    if (first?.entry === 0)
      return `${FEED.has(code) ? "the feed: " : ""}${words}${first.detail ? ` (${first.detail})` : ""}`;
    return `${all.length === 1 ? "1 entry" : `${all.length} entries`}: ${words}`;
  });
}
