"""The pages of an archive in order.

Each is read once, and their number is bounded.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date

from glyptarch_core.errors import ParseError
from glyptarch_core.readers import Feed

from glyptarch_server import wiring
from glyptarch_server.pages.fetching import fetch_pages
from glyptarch_server.sources.access import request_for
from glyptarch_server.sources.models import Source
from glyptarch_server.wiring import Fetched, FetchError, FetchPortal, RawFeed

__all__ = ["MOST_PAGES", "Page", "pages_back"]

MOST_PAGES = 500
_PLACE = "{page}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Page:
    """One page of an archive. ``why_last`` is the reason why no other page follows.

    Empty where one does.
    """

    number: int
    feed: Feed | None
    next_url: str
    why_last: str


def _first(source: Source, pattern: str, fetcher: FetchPortal) -> str:
    """Return the first older page.

    From the pattern, or as the feed names it (RFC 5005, 3 and 4).
    """
    if pattern:
        return pattern.replace(_PLACE, "2")
    feed = _read(source, source.url, fetcher)
    return feed.older if isinstance(feed, Feed) else ""


def _read(source: Source, url: str, fetcher: FetchPortal) -> Feed | str:
    """Read a page.

    Return a text where it could not be read.
    """
    if url == source.url:
        (answer,) = fetcher.fetch_all([request_for(source, url=url)])
    else:
        # A person entered the address of the feed, but not of its older pages: robots.txt is asked for them.
        (answer,) = fetch_pages(
            [url], request_for=lambda page: request_for(source, url=page), fetcher=fetcher, now=wiring.clock()()
        )
    if isinstance(answer, FetchError):
        return str(answer)
    assert isinstance(answer, Fetched)  # noqa: S101 - the other kind is handled above
    raw = RawFeed(body=answer.body, source=source.key, url=answer.url, content_type=answer.content_type)
    try:
        return wiring.apart().read_feed(raw)
    except ParseError as error:
        return str(error)


def pages_back(
    source: Source, *, floor: date, pattern: str, fetcher: FetchPortal, next_url: str = "", number: int = 0
) -> Iterator[Page]:
    """Yield the older pages of a source, newest first.

    A resumed walk starts at ``next_url``. Ends at the day, at the last page, at a page seen before or without new
    items, at an unreadable one, and after 500 pages.
    """
    url = next_url or _first(source, pattern, fetcher)
    visited, seen = {source.url}, set[str]()
    if not url:
        yield Page(number=number, feed=None, next_url="", why_last="The feed names no older pages.")
    while url:
        number += 1
        feed = _read(source, url, fetcher)
        if isinstance(feed, str):
            yield Page(number=number, feed=None, next_url="", why_last=f"Page {number} could not be read. {feed}")
            return
        visited.add(url)
        identities = {item.identity for item in feed.items}
        older = pattern.replace(_PLACE, str(number + 2)) if pattern else feed.older
        why = _why_last(feed, older, floor, number, is_known=identities <= seen, again=older in visited)
        seen |= identities
        url = "" if why else older
        yield Page(number=number, feed=feed, next_url=url, why_last=why)


def _why_last(feed: Feed, older: str, floor: date, number: int, *, is_known: bool, again: bool) -> str:
    dates = [item.published or item.updated for item in feed.items]
    newest = max((at for at in dates if at), default=None)
    for holds, words in (
        (not feed.items, "The last page is empty."),
        (is_known, "The last page has nothing that was not on one before."),
        (newest is not None and newest.date() < floor, "The day was reached."),
        (not older, "That was the last page."),
        (again, "The pages lead in a circle."),
        (number >= MOST_PAGES, f"{MOST_PAGES} pages were read, the most in one go."),
    ):
        if holds:
            return words
    return ""
