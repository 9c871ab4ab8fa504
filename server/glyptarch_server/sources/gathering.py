"""Reading sources: feeds in parallel, sites by their page readers.

The results are stored elsewhere.
"""

import time
from collections import deque
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass, replace
from datetime import timedelta
from functools import partial
from http import HTTPStatus
from typing import TYPE_CHECKING, NamedTuple, TypeAlias

from glyptarch_core.errors import ParseError
from glyptarch_core.readers import Feed
from glyptarch_core.readers.links import linked

from glyptarch_server import wiring
from glyptarch_server.common.problems import Conflict
from glyptarch_server.pages.actions import keep_reading
from glyptarch_server.pages.gathering import read_site
from glyptarch_server.pages.memory import compare
from glyptarch_server.pages.queries import document_of, reader_by_id
from glyptarch_server.platforms.actions import note_answer, take_request
from glyptarch_server.platforms.gathering import read_platform
from glyptarch_server.platforms.queries import keys_sharing
from glyptarch_server.sources.access import request_for
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchPortal, FetchRequest, RawFeed

if TYPE_CHECKING:
    from glyptarch_server.sources.models import PlatformAsk, Source

__all__ = ["KnownEntries", "KnownLinks", "Outcome", "SourceAnswer", "read_sources"]

Outcome: TypeAlias = Feed | Fetched | FetchError | ParseError
"""What reading a source gave: a feed, an answer that nothing has changed, or an error."""


@dataclass(frozen=True, slots=True, kw_only=True)
class SourceAnswer:
    """The answer of a source. ``milliseconds`` covers fetching and reading.

    ``size`` is in bytes. ``status`` is the HTTP status, 0 for none. ``moved_to`` is the target of permanent redirects.
    ``pushed`` marks an answer sent by a hub.
    """

    outcome: Outcome
    milliseconds: int = 0
    status: int = 0
    size: int = 0
    moved_to: str = ""
    pushed: bool = False


class KnownEntries(NamedTuple):
    """The known entries of a source: content hashes, and marks of unchanged entries."""

    contents: frozenset[str] = frozenset()
    marks: frozenset[str] = frozenset()


def _nothing_known(sources: "Sequence[Source]") -> Mapping[int, KnownEntries]:
    del sources
    return {}


KnownLinks: TypeAlias = "Callable[[Source, Collection[str]], Collection[str]]"
"""Gives of the identities of articles those that a source has captured already."""


def _no_link_known(source: "Source", identities: Collection[str]) -> Collection[str]:
    del source, identities
    return ()


def read_sources(
    sources: "Sequence[Source]",
    fetcher: FetchPortal,
    *,
    known_entries: "Callable[[Sequence[Source]], Mapping[int, KnownEntries]]" = _nothing_known,
    known_links: KnownLinks = _no_link_known,
) -> "Iterator[list[tuple[Source, SourceAnswer]]]":
    """Read sources with conditional requests.

    Yield the results in batches as they arrive. ``known_entries`` returns the entries to skip by source number,
    ``known_links`` the captured articles of a site. Sites come after the feeds, one by one.
    """
    asked: list[Source] = []
    requests: list[FetchRequest] = []
    for source in sources:
        if source.reader_id is not None or source.ask is not None:
            continue
        try:
            requests.append(request_for(source))
            asked.append(source)
        except Conflict as error:
            # Unreadable secrets are reported at this source and stop no other.
            yield [(source, SourceAnswer(outcome=FetchError(FetchCode.REFUSED, error.detail)))]
    yield from _read_feeds(fetcher.fetch_in_batches(requests), asked, known_entries)
    for source in sources:
        if source.reader_id is not None:
            yield [(source, _read_site(source, fetcher, known_links))]
        elif source.ask is not None:
            yield [(source, _read_platform(source, source.ask, fetcher, known_links))]


def _read_platform(source: "Source", ask: "PlatformAsk", fetcher: FetchPortal, known_links: KnownLinks) -> SourceAnswer:
    """Read a platform by the source's connection, within the shared quota."""
    connection = ask.connection
    among = keys_sharing(connection) if connection else ()
    begun = time.perf_counter()

    def take() -> FetchError | None:
        refused = take_request(connection, source.key, among, now=wiring.clock()()) if connection else None
        if refused is None:
            return None
        seconds = max(1, round((refused.until - wiring.clock()()).total_seconds()))
        return FetchError(FetchCode.TOO_MANY_REQUESTS, refused.message, retry_after=seconds)

    def note(answer: Fetched | FetchError) -> None:
        if connection is not None:
            note_answer(connection, answer, now=wiring.clock()())

    read = read_platform(
        ask.platform,
        ask.parameters,
        [line["text"] for line in ask.search_words if line["on"] and line["text"]],
        connection,
        source=source.key,
        title=source.title,
        known_identities=lambda identities: known_links(source, identities),
        take=take,
        note=note,
        fetcher=fetcher,
        broken_off=source.state.broken_off,
        etag=source.state.etag,
        last_modified=source.state.last_modified,
    )
    if read.broken_off != source.state.broken_off:
        source.state.broken_off = dict(read.broken_off)
        source.state.save(update_fields=["broken_off"])
    outcome = read.outcome
    if isinstance(outcome, Feed):
        source.state.etag, source.state.last_modified = read.etag, read.last_modified
    if isinstance(outcome, FetchError) and connection is not None and connection.detail:
        # The connection has the remedy in plain words.
        error = FetchError(outcome.code, connection.detail, retry_after=outcome.retry_after, status=outcome.status)
        outcome = outcome if outcome.code is FetchCode.TOO_MANY_REQUESTS else error
    status = outcome.status if isinstance(outcome, FetchError) else HTTPStatus.OK
    milliseconds = round((time.perf_counter() - begun) * 1000)
    return SourceAnswer(outcome=outcome, milliseconds=milliseconds, status=status, size=read.size)


def _read_site(source: "Source", fetcher: FetchPortal, known_links: KnownLinks) -> SourceAnswer:
    """Read a site by its reader, and store the findings with the reader."""
    reader, now = reader_by_id(source.reader_id or 0), wiring.clock()()
    document = document_of(reader)
    if source.url != reader.url:
        # The reader of a site, used for another list of it.
        document = document.model_copy(update={"url": source.url, "sections": ()})
    begun = time.perf_counter()
    read = read_site(
        document,
        source=source.key,
        title=source.title,
        # The ETag is kept only for one-page lists that were read in full.
        request_for=lambda url: request_for(source, url="" if url == source.url else url),
        known_links=lambda identities: known_links(source, identities),
        compare=partial(compare, source.blog_id),
        fetcher=fetcher,
        now=now,
    )
    if isinstance(read.outcome, Fetched):
        milliseconds = round((time.perf_counter() - begun) * 1000)
        return SourceAnswer(outcome=read.outcome, milliseconds=milliseconds, status=read.outcome.status)
    drifted = keep_reading(reader, read, now=now)
    listed = read.list_answer
    source.state.etag, source.state.last_modified = (listed.etag, listed.last_modified) if listed else ("", "")
    if drifted != source.state.in_doubt:
        source.state.in_doubt = drifted
        source.state.save(update_fields=["in_doubt"])
    status = read.outcome.status if isinstance(read.outcome, FetchError) else HTTPStatus.OK
    milliseconds = round((time.perf_counter() - begun) * 1000)
    return SourceAnswer(outcome=read.outcome, milliseconds=milliseconds, status=status, size=read.size)


_MOST_UNREAD = 3


def _read_feeds(
    answers: "Iterator[list[tuple[int, Fetched | FetchError]]]",
    asked: "Sequence[Source]",
    known_entries: "Callable[[Sequence[Source]], Mapping[int, KnownEntries]]",
) -> "Iterator[list[tuple[Source, SourceAnswer]]]":
    """Read the answers that have arrived.

    Unchanged ones are yielded first, while feeds are parsed.
    """
    with ThreadPoolExecutor(1, thread_name_prefix="feeds") as beside:
        unread: deque[Future[list[tuple[Source, SourceAnswer]]]] = deque()
        for batch in answers:
            ready: list[tuple[Source, SourceAnswer]] = []
            feeds: list[tuple[Source, Fetched]] = []
            for place, got in batch:
                if isinstance(got, Fetched) and not got.not_modified:
                    feeds.append((asked[place], got))
                else:
                    ready.append((asked[place], _answer_of(got, None, 0)))
            if feeds:
                unread.append(beside.submit(_read, feeds, known_entries([source for source, _ in feeds])))
            while unread and (unread[0].done() or len(unread) > _MOST_UNREAD):
                ready += unread.popleft().result()
            if ready:
                yield ready
        for left in unread:
            yield left.result()


def _read(
    feeds: "Sequence[tuple[Source, Fetched]]", known_entries: "Mapping[int, KnownEntries]"
) -> "list[tuple[Source, SourceAnswer]]":
    """Read the feeds of answers, side by side."""
    begun = time.perf_counter()
    read = wiring.apart().read_feeds(
        [
            RawFeed(
                body=got.body,
                source=source.key,
                url=got.url,
                content_type=got.content_type,
                known=known_entries.get(source.pk, KnownEntries()).contents,
                marks=known_entries.get(source.pk, KnownEntries()).marks,
            )
            for source, got in feeds
        ]
    )
    each = round((time.perf_counter() - begun) * 1000 / max(len(read), 1))
    return [
        (source, _answer_of(got, _with_wishes(source, got, feed), each))
        for (source, got), feed in zip(feeds, read, strict=True)
    ]


def _with_wishes(source: "Source", answer: Fetched, feed: Feed | ParseError) -> Feed | ParseError:
    """Return an answer with the validators and wishes of its headers, for the next reading."""
    if isinstance(feed, ParseError):
        return feed
    source.state.etag, source.state.last_modified = answer.etag, answer.last_modified
    link = answer.headers.get("link", "")
    return replace(
        feed,
        wished=max(feed.wished, timedelta(seconds=answer.max_age)),
        # WebSub 4: the header comes before the document.
        hub=linked(link, "hub", answer.url) or feed.hub,
        self_link=linked(link, "self", answer.url) or feed.self_link,
    )


def _answer_of(answer: Fetched | FetchError, read: Feed | ParseError | None, milliseconds: int) -> SourceAnswer:
    if isinstance(answer, FetchError):
        return SourceAnswer(outcome=answer, status=answer.status)
    return SourceAnswer(
        outcome=answer if read is None else read,
        milliseconds=answer.milliseconds + (0 if read is None else milliseconds),
        status=answer.status,
        size=len(answer.body),
        moved_to=answer.moved_to,
    )
