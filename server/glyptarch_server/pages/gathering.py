"""Reading a site by its reader: its lists, then the articles that are new, each page once."""

import statistics
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from glyptarch_core.errors import ParseError
from glyptarch_core.pages.desk import ArticleItem, RawPage, article_item, article_of, list_of
from glyptarch_core.pages.document import ReaderDocument
from glyptarch_core.pages.drift import Known, Tally
from glyptarch_core.pages.kinds import PageKind
from glyptarch_core.pages.reading import ArticleRead, Entry, ListRead
from glyptarch_core.readers import Feed, FeedEntry, ReadWarning
from glyptarch_core.text import canonical_link

from glyptarch_server import wiring
from glyptarch_server.pages.fetching import fetch_pages, within
from glyptarch_server.wiring import Fetched, FetchError, FetchPortal, FetchRequest

__all__ = ["Compare", "ReadPage", "SiteRead", "read_articles", "read_site", "sample_requests"]

_MOST_PARTS = 5
_MOST_INDEXES = 3
# Milliseconds for the pages of one reading; a site may ask for a minute between two requests.
_LONGEST_READING = 300_000
_LONGEST_TEST = 20_000
_KNOWN_KEPT = 40
# A person waits for a test, and Chromium needs some seconds for each page.
_MOST_RENDERED = 6


Compare = Callable[[Sequence[RawPage]], list[frozenset[str]]]


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadPage:
    """A fetched page, to be stored as a snapshot."""

    raw: RawPage
    lists: bool


@dataclass(slots=True, kw_only=True)
class SiteRead:
    """The reading of a site: its items as a feed, the selector counts, and its pages.

    ``whole`` says that every list was read; only then is the reading compared with others. ``list_answer`` is the
    answer of the only list, once all its articles have been read, so that the next reading can ask whether it changed.
    The outcome is ``Fetched`` where it has not.
    """

    outcome: Feed | Fetched | FetchError | ParseError
    tally: Tally = field(default_factory=lambda: Tally(counts={}, filled={}))
    known: list[Known] = field(default_factory=list)
    pages: list[ReadPage] = field(default_factory=list)
    size: int = 0
    whole: bool = False
    list_answer: Fetched | None = None


class _Site:
    """One reading of a site."""

    def __init__(
        self,
        document: ReaderDocument,
        *,
        source: str,
        request_for: Callable[[str], FetchRequest],
        known_links: Callable[[Collection[str]], Collection[str]],
        compare: Compare,
        fetcher: FetchPortal,
        now: datetime,
    ) -> None:
        self._document, self._source, self._now, self._compare = document, source, now, compare
        self._request_for, self._known, self._fetcher = request_for, known_links, fetcher
        self._warnings: list[ReadWarning] = []
        self._pages: list[ReadPage] = []
        self._counts: dict[str, int] = {}
        self._read: list[ArticleRead] = []
        self._whole = True
        self._first_list: Fetched | None = None
        self._size = 0

    def fetch(self, urls: Sequence[str]) -> list[Fetched | FetchError]:
        answers = fetch_pages(urls, request_for=self._request_for, fetcher=self._fetcher, now=self._now)
        self._size += sum(len(answer.body) for answer in answers if isinstance(answer, Fetched))
        return answers

    def entries(self) -> dict[str, tuple[Entry, str]] | FetchError | ParseError:
        """Return the new articles of the lists by address, with category.

        An error where no list was readable.
        """
        entries: dict[str, tuple[Entry, str]] = {}
        faults: list[FetchError | ParseError] = []
        for url, category in self._document.addresses():
            fault = self._walk(url, category, entries)
            if fault is not None:
                faults.append(fault)
                self._whole = False
                self._warnings.append(ReadWarning(code="section_unread", detail=f"{url}: {fault}"[:300]))
        if faults and len(faults) == len(self._document.addresses()):
            return faults[0]
        return entries

    def _walk(self, url: str, category: str, entries: dict[str, tuple[Entry, str]]) -> FetchError | ParseError | None:
        """Read the pages of one list until one has nothing new.

        Return an error of the first page.
        """
        settings, seen, number = self._document.list_page, set[str](), 0
        while url and url not in seen and number < settings.pages and len(seen) <= settings.pages + _MOST_INDEXES:
            seen.add(url)
            raw, read = self._list(url)
            if not isinstance(read, ListRead):
                return None if number else read
            if read.is_index:
                url = read.next_url
                continue
            number += 1
            if number == 1:
                self._pages.append(ReadPage(raw=raw, lists=True))
                for name, count in read.counts.items():
                    self._counts[name] = self._counts.get(name, 0) + count
            fresh = self._fresh(read.entries)
            for entry in fresh:
                entries.setdefault(entry.url, (entry, category))
            following = settings.pattern.replace("{page}", str(number + 1)) if settings.pattern else read.next_url
            url = following if fresh and not any(self._is_old(entry) for entry in read.entries) else ""
        return None

    def _list(self, url: str) -> tuple[RawPage, ListRead | FetchError | ParseError]:
        (answer,) = self.fetch([url])
        if isinstance(answer, FetchError):
            return RawPage(body=b"", url=url), answer
        self._first_list = self._first_list or answer
        if answer.not_modified:
            return RawPage(body=b"", url=url), ListRead(entries=(), next_url="", counts={}, is_index=True)
        raw = RawPage(body=answer.body, url=answer.url, content_type=answer.content_type, at=self._now)
        read = wiring.apart().call(list_of, [(raw, self._document.list_page)])[0]
        if isinstance(read, ListRead):
            return raw, read
        return raw, ParseError(*(read or ("too_costly", "Reading this page takes more time than it is worth.")))

    def _fresh(self, entries: Sequence[Entry]) -> list[Entry]:
        identities = {entry.url: canonical_link(entry.url) or entry.url for entry in entries}
        captured_identities = set(self._known(set(identities.values())))
        return [
            entry for entry in entries if identities[entry.url] not in captured_identities and not self._is_old(entry)
        ]

    def _is_old(self, entry: Entry) -> bool:
        since = self._document.since
        return since is not None and entry.date is not None and entry.date.date() < since

    def articles(self, entries: Mapping[str, tuple[Entry, str]]) -> list[ArticleItem]:
        """Read the articles.

        Other pages (consent, errors) cause a warning and are tried again next time.
        """
        urls = within(list(entries), _LONGEST_READING, self._request_for, self._fetcher, self._now)
        chosen = {url: entries[url] for url in urls[: self._document.at_most]}
        if len(entries) > len(chosen):
            self._warnings.append(ReadWarning(code="more_articles", detail=str(len(entries) - len(chosen))))
        answers = self.fetch(list(chosen))
        raws: list[RawPage] = []
        wanted: list[tuple[Entry, str]] = []
        for (entry, category), answer in zip(chosen.values(), answers, strict=True):
            if isinstance(answer, FetchError):
                self._warnings.append(ReadWarning(code="article_unread", detail=str(answer)[:300]))
            else:
                raws.append(RawPage(body=answer.body, url=answer.url, content_type=answer.content_type, at=self._now))
                wanted.append((entry, category))
        articles: list[ArticleItem] = []
        for raw, (entry, category), read in zip(raws, wanted, self._all(raws), strict=True):
            if read is None:
                continue
            self._read.append(read)
            parts = self._further_parts(read)
            item = wiring.apart().call(article_item, [(read, self._source, entry, category, parts)])[0]
            if item is not None:
                articles.append(item)
                if len(articles) <= 2:  # noqa: PLR2004 - enough to test a reader on
                    self._pages.append(ReadPage(raw=raw, lists=False))
        return articles

    def _all(self, raws: Sequence[RawPage]) -> list[ArticleRead | None]:
        repeated = self._compare(raws)
        calls = [(raw, self._document.article, self._now, keys) for raw, keys in zip(raws, repeated, strict=True)]
        pages_read: list[ArticleRead | None] = []
        for raw, read in zip(raws, wiring.apart().call(article_of, calls), strict=True):
            fault = "" if isinstance(read, ArticleRead) else (read or ("too_costly", ""))[0]
            if isinstance(read, ArticleRead) and read.kind is not PageKind.ARTICLE:
                fault = f"page_{read.kind.value}"
            if fault:
                self._warnings.append(ReadWarning(code=fault, detail=raw.url[:300]))
            pages_read.append(read if isinstance(read, ArticleRead) and not fault else None)
        return pages_read

    def _further_parts(self, read: ArticleRead) -> list[str]:
        """Return the texts of the further pages of an article."""
        parts: list[str] = []
        seen, url = {read.url}, read.next_part
        while url and url not in seen and len(parts) < _MOST_PARTS:
            seen.add(url)
            (answer,) = self.fetch([url])
            if isinstance(answer, FetchError):
                self._warnings.append(ReadWarning(code="part_unread", detail=str(answer)[:300]))
                break
            raw = RawPage(body=answer.body, url=answer.url, content_type=answer.content_type, at=self._now)
            (keys,) = self._compare([raw])
            more = wiring.apart().call(article_of, [(raw, self._document.article, self._now, keys)])[0]
            if not isinstance(more, ArticleRead):
                break
            parts.append(more.fields.get("text", ""))
            url = more.next_part
        return parts

    def given(self, items: Sequence[ArticleItem], *, title: str) -> SiteRead:
        first = self._first_list
        if first is not None and first.not_modified:
            return SiteRead(outcome=first)
        only_list = len(self._document.addresses()) == 1 and self._document.list_page.pages == 1
        read = self._read
        names = {field.name for field in self._document.article.fields}
        filled = (
            {name: round(sum(name in article.fields for article in read) / len(read), 2) for name in names}
            if read
            else {}
        )
        words = round(statistics.median([article.words for article in read])) if read else 0
        feed = Feed(
            format="Web pages",
            title=title,
            link=self._document.url,
            language=next((article.language for article in read if article.language), ""),
            entries=tuple(
                FeedEntry(item.item, number, features=item.features) for number, item in enumerate(items, start=1)
            ),
            warnings=tuple(self._warnings[:100]),
        )
        known_articles = [
            _known_article(reading, item) for reading, item in zip([item.read for item in items], items, strict=True)
        ]
        return SiteRead(
            outcome=feed,
            tally=Tally(counts=self._counts, filled=filled, words=words, articles=len(read), of=self._document.url),
            known=known_articles[:_KNOWN_KEPT],
            pages=self._pages,
            size=self._size,
            whole=self._whole,
            list_answer=first if only_list and not self._warnings else None,
        )

    def failed(self, fault: FetchError | ParseError) -> SiteRead:
        return SiteRead(outcome=fault, tally=Tally(counts=self._counts, filled={}), pages=self._pages, size=self._size)


_LONGEST_KNOWN = 600


def _known_article(read: ArticleRead, item: ArticleItem) -> Known:
    fields = {name: value[:_LONGEST_KNOWN] for name, value in read.fields.items() if name != "text"}
    fields["text"] = item.features.text.text[: _LONGEST_KNOWN * 2]
    if read.date is not None:
        fields["date"] = read.date.isoformat()
    return Known(url=item.item.link, title=item.item.title, fields=fields)


def read_site(
    document: ReaderDocument,
    *,
    source: str,
    title: str,
    request_for: Callable[[str], FetchRequest],
    known_links: Callable[[Collection[str]], Collection[str]],
    compare: Compare,
    fetcher: FetchPortal,
    now: datetime,
) -> SiteRead:
    """Read a site. ``known_links`` returns the captured ones of given identities.

    Those articles are skipped. ``compare`` returns for each article page what it shares with others of its site.
    """
    site = _Site(
        document,
        source=source,
        request_for=request_for,
        known_links=known_links,
        compare=compare,
        fetcher=fetcher,
        now=now,
    )
    entries = site.entries()
    if isinstance(entries, FetchError | ParseError):
        return site.failed(entries)
    return site.given(site.articles(entries), title=title)


_SAMPLED_LISTS = 6
_OF_EACH_LIST = 2


def sample_requests(
    document: ReaderDocument, request_for: Callable[[str], FetchRequest], *, fetcher: FetchPortal, now: datetime
) -> list[FetchRequest]:
    """Return requests for some articles of each section of a site, to test a reader."""
    lists = [url for url, _ in document.addresses()][:_SAMPLED_LISTS]
    answers = fetch_pages(lists, request_for=request_for, fetcher=fetcher, now=now)
    raws = [
        RawPage(body=answer.body, url=answer.url, content_type=answer.content_type, at=now)
        for answer in answers
        if isinstance(answer, Fetched)
    ]
    reads = wiring.apart().call(list_of, [(raw, document.list_page) for raw in raws])
    chosen = [entry.url for read in reads if isinstance(read, ListRead) for entry in read.entries[:_OF_EACH_LIST]]
    return [request_for(url) for url in dict.fromkeys(chosen)]


def read_articles(
    document: ReaderDocument,
    requests: Sequence[FetchRequest],
    *,
    compare: Compare,
    fetcher: FetchPortal,
    now: datetime,
) -> list[tuple[str, ArticleRead | str]]:
    """Read sample articles for a test, compared with each other as in a reading.

    A text says why one could not be read.
    """
    slow = any(request.rendered for request in requests)
    asked = {request.url: request for request in requests[: _MOST_RENDERED if slow else len(requests)]}
    urls = within(list(asked), _LONGEST_TEST, asked.__getitem__, fetcher, now)
    answers = fetch_pages(urls, request_for=asked.__getitem__, fetcher=fetcher, now=now)
    fetched = [
        RawPage(body=answer.body, url=answer.url, content_type=answer.content_type, at=now)
        for answer in answers
        if isinstance(answer, Fetched)
    ]
    calls = [(raw, document.article, now, keys) for raw, keys in zip(fetched, compare(fetched), strict=True)]
    reads = iter(wiring.apart().call(article_of, calls))
    results: list[tuple[str, ArticleRead | str]] = []
    for url, answer in zip(urls, answers, strict=True):
        if isinstance(answer, FetchError):
            results.append((url, str(answer)))
            continue
        read = next(reads)
        results.append(
            (url, read if isinstance(read, ArticleRead) else (read or ("", "It takes too long to read."))[1])
        )
    return results
