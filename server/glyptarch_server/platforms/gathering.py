"""Reading a platform: each line of search words, page by page, within the quota."""

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from glyptarch_core.errors import ParseError
from glyptarch_core.platforms import platform_of
from glyptarch_core.platforms.asking import Source as Asked
from glyptarch_core.platforms.asking import ask_for, read_answer
from glyptarch_core.platforms.model import Answer, PlatformPage
from glyptarch_core.readers import Feed, FeedEntry, ReadWarning

from glyptarch_server import wiring
from glyptarch_server.common.problems import Conflict
from glyptarch_server.platforms.access import request_of
from glyptarch_server.platforms.models import Connection
from glyptarch_server.platforms.signing_in import with_fresh_token
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchPortal

__all__ = ["PlatformRead", "first_answer", "read_platform"]

_MOST_PAGES = 20
_CURSOR_IS_OVER = (400, 404, 410, 422)
"""Statuses by which platforms say that a page can no longer be asked for by its cursor."""


@dataclass(slots=True, kw_only=True)
class PlatformRead:
    """The result of reading a platform, and the bytes of its answers.

    ``broken_off`` is by search line the page at which the reading broke off: the next reading goes on there. The
    validators are those of the first answer, for the next reading.
    """

    outcome: Feed | Fetched | FetchError | ParseError
    size: int = 0
    etag: str = ""
    last_modified: str = ""
    broken_off: Mapping[str, str] = field(default_factory=dict)


@dataclass(slots=True)
class _Gathered:
    entries: dict[str, FeedEntry] = field(default_factory=dict)
    warnings: list[ReadWarning] = field(default_factory=list)
    faults: list[FetchError | ParseError] = field(default_factory=list)
    size: int = 0
    broken_off: dict[str, str] = field(default_factory=dict)
    # The validators to send with the first request, and the first answer.
    etag: str = ""
    last_modified: str = ""
    first: Fetched | None = None


def first_answer(
    asked: Asked,
    words: str,
    connection: Connection | None,
    *,
    fetcher: FetchPortal,
    cursor: str = "",
    etag: str = "",
    last_modified: str = "",
) -> tuple[Fetched | FetchError, PlatformPage | ParseError | None]:
    """Request a page and read it.

    None where nothing was fetched, or nothing has changed. Raises ParseError for bad parameters.
    """
    ask = ask_for(asked, words, cursor)
    if connection is not None:
        ended = with_fresh_token(connection, fetcher=fetcher, now=wiring.clock()())
        if ended is not None:
            return ended, None
    request = request_of(asked.platform, ask, connection, etag=etag, last_modified=last_modified)
    (answer,) = fetcher.fetch_all([request])
    if isinstance(answer, FetchError) or answer.not_modified:
        return answer, None
    raw = Answer(
        body=answer.body, url=answer.url, content_type=answer.content_type, link=answer.headers.get("link", "")
    )
    try:
        return answer, wiring.apart().ask(read_answer, asked, raw, words, cursor)
    except ParseError as error:
        return answer, error


def read_platform(
    key: str,
    parameters: Mapping[str, Any],
    words: Sequence[str],
    connection: Connection | None,
    *,
    source: str,
    title: str,
    known_identities: Callable[[Collection[str]], Collection[str]],
    take: Callable[[], FetchError | None],
    note: Callable[[Fetched | FetchError], None],
    fetcher: FetchPortal,
    broken_off: Mapping[str, str],
    etag: str = "",
    last_modified: str = "",
) -> PlatformRead:
    """Read a platform. ``known_identities`` returns the captured ones.

    ``take`` takes a request of the quota. A search line ends at a page with nothing new, at a page seen before, and at
    the last page. Where an earlier reading was ``broken_off``, by search line, it then goes on at that page to the end.
    """
    asked = Asked(platform=key, parameters=parameters, key=source)
    # With several search lines, or a gap to fill, one unchanged answer says nothing about the others.
    is_one = len(words) <= 1 and not broken_off
    gathered = _Gathered(etag=etag if is_one else "", last_modified=last_modified if is_one else "")

    def read(line: str, *, cursor: str = "", to_the_end: bool = False) -> FetchError | ParseError | None:
        return _read_line(
            asked,
            line,
            connection,
            gathered,
            cursor=cursor,
            # What comes before a gap is known, and so may be what comes after it.
            known_identities=_nothing_known if to_the_end else known_identities,
            take=take,
            note=note,
            fetcher=fetcher,
        )

    for line in words or ("",):
        try:
            fault = read(line)
            if fault is None and line in broken_off:
                fault = read(line, cursor=broken_off[line], to_the_end=True)
                if isinstance(fault, FetchError) and fault.status in _CURSOR_IS_OVER:
                    fault = read(line, to_the_end=True)
            elif line in broken_off:
                # Everything after this page is read again later, and so is the earlier gap.
                gathered.broken_off.setdefault(line, broken_off[line])
        except Conflict as error:
            fault = FetchError(FetchCode.REFUSED, error.detail)
        if fault is not None:
            gathered.faults.append(fault)
            gathered.warnings.append(
                ReadWarning(code="words_unread", detail=f"{line}: {fault}"[:300] if line else str(fault))
            )
            if isinstance(fault, FetchError):
                # The next line would get the same error.
                break
    return _outcome_of(gathered, key, title, broken_off, unchanged=(etag, last_modified), is_one=is_one)


def _outcome_of(
    gathered: _Gathered,
    key: str,
    title: str,
    broken_off: Mapping[str, str],
    *,
    unchanged: tuple[str, str],
    is_one: bool,
) -> PlatformRead:
    """Return what was gathered as the result of a reading."""
    if gathered.first is not None and gathered.first.not_modified:
        return PlatformRead(outcome=gathered.first, etag=unchanged[0], last_modified=unchanged[1])
    if gathered.faults and not gathered.entries:
        return PlatformRead(
            outcome=gathered.faults[0], size=gathered.size, broken_off={**broken_off, **gathered.broken_off}
        )
    platform = platform_of(key)
    feed = Feed(
        format=platform.name if platform else key,
        title=title,
        link="",
        language="",
        entries=tuple(gathered.entries.values()),
        warnings=tuple(gathered.warnings[:100]),
    )
    # After a fault the next reading asks for all of it.
    first = gathered.first if is_one and not gathered.faults else None
    return PlatformRead(
        outcome=feed,
        size=gathered.size,
        broken_off=gathered.broken_off,
        etag=first.etag if first else "",
        last_modified=first.last_modified if first else "",
    )


def _nothing_known(_identities: Collection[str]) -> Collection[str]:
    return ()


def _read_line(
    asked: Asked,
    words: str,
    connection: Connection | None,
    gathered: _Gathered,
    *,
    cursor: str,
    known_identities: Callable[[Collection[str]], Collection[str]],
    take: Callable[[], FetchError | None],
    note: Callable[[Fetched | FetchError], None],
    fetcher: FetchPortal,
) -> FetchError | ParseError | None:
    """Read one search line from a page on, the first one without a cursor.

    Return the error that ended it early.
    """
    platform = platform_of(asked.platform)
    most = platform.most_items(platform.parameters.model_validate(asked.parameters)) if platform else 0
    seen, number = set[str](), 0
    for _ in range(_MOST_PAGES):
        page = take() or _page(asked, words, connection, gathered, cursor=cursor, note=note, fetcher=fetcher)
        if page is None:
            return None
        if not isinstance(page, PlatformPage):
            if cursor:
                gathered.broken_off[words] = cursor
            return page
        fresh = {item.identity for item in page.items} - seen
        if page.items and not fresh:
            gathered.warnings.append(ReadWarning(code="page_repeats", detail=words))
            break
        seen |= fresh
        number += len(fresh)
        _keep(gathered, page, number, most)
        if not page.next or number >= most or set(known_identities(fresh)) >= fresh:
            break
        cursor = page.next
    return None


def _page(
    asked: Asked,
    words: str,
    connection: Connection | None,
    gathered: _Gathered,
    *,
    cursor: str,
    note: Callable[[Fetched | FetchError], None],
    fetcher: FetchPortal,
) -> PlatformPage | FetchError | ParseError | None:
    """Ask for a page. None where nothing has changed since the last reading."""
    is_first = gathered.first is None and not cursor
    try:
        answer, page = first_answer(
            asked,
            words,
            connection,
            fetcher=fetcher,
            cursor=cursor,
            etag=gathered.etag if is_first else "",
            last_modified=gathered.last_modified if is_first else "",
        )
    except ParseError as error:
        return error
    note(answer)
    if isinstance(answer, FetchError):
        return answer
    if is_first:
        gathered.first = answer
    if answer.not_modified:
        return None
    gathered.size += len(answer.body)
    return page or ParseError("empty", "The platform's answer is empty.")


def _keep(gathered: _Gathered, page: PlatformPage, number: int, most: int) -> None:
    left = len(page.items) - max(0, number - most)
    for item, features in list(zip(page.items, page.features, strict=True))[:left]:
        # An item found by two lines belongs to the first.
        if item.identity not in gathered.entries:
            gathered.entries[item.identity] = FeedEntry(item, len(gathered.entries) + 1, features=features)
    gathered.warnings.extend(page.warnings)
