"""Making sources: from a feed, a page reader, a platform, and by hand."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db import IntegrityError, transaction
from glyptarch_core.errors import Fault
from glyptarch_core.item import Right
from glyptarch_core.readers import Feed
from glyptarch_core.text import slugify, title_key, unused

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.pages.models import Reader
from glyptarch_server.platforms.actions import checked_parameters, name_of_platform
from glyptarch_server.platforms.models import Connection
from glyptarch_server.platforms.queries import connection_of
from glyptarch_server.sources import queries
from glyptarch_server.sources.checking import Checked, check_addresses, normal_address
from glyptarch_server.sources.models import PlatformAsk, Source, SourceState
from glyptarch_server.wiring import (
    FetchPortal,
)

__all__ = [
    "SINGLE_PAGES",
    "NewSource",
    "add_page_source",
    "add_platform_source",
    "add_source",
    "add_sources",
    "asked_of",
    "source_by_hand",
]


def _stem(title: str) -> str:
    return slugify(title_key(title), longest=50).encode("ascii", "ignore").decode().strip("-") or "source"


def _free_key(blog: Blog, title: str) -> str:
    base = _stem(title)
    taken = queries.source_keys(blog, base)
    # The screen for new sources uses the address “add”.
    return unused(base, {*taken, "add"})


def _rights(said: Right | None) -> dict[str, Any]:
    """Return what posts may carry of a new source: what a person said, else an excerpt."""
    return {"right": (said or Right.EXCERPT).value, "right_said": said is not None}


def add_source(
    blog: Blog, url: str, title: str, *, right: Right | None = None, fetcher: FetchPortal, now: datetime
) -> tuple[Source, Feed]:
    """Read an address once more and make it a source.

    ``right`` is what a person said that posts may carry; None where nobody did. Raises Invalid when it is no feed any
    more, Conflict when the blog reads it already.
    """
    checked = check_addresses([url], fetcher)[0]
    if checked.feed is None:
        raise Invalid(checked.detail or "This address leads to feeds, but is none itself. Choose one of them.")
    taken = queries.address_taken(blog, checked.url)
    if taken is not None:
        raise Conflict(f"“{taken.title}” already reads this address.")
    return _make(blog, checked, checked.feed, title, right, now), checked.feed


def _make(blog: Blog, checked: Checked, feed: Feed, title: str, right: Right | None, now: datetime) -> Source:
    name = title.strip() or feed.title or checked.url
    with transaction.atomic():
        rows = add_sources(blog, [NewSource(url=checked.url, title=name, right=right)], now=now)
        if not rows:
            raise Conflict("This address has just been added by someone else.")
        row = rows[0]
        said = {"link": feed.link[:2000], "format": feed.format[:40], "language": feed.language[:35]}
        SourceState.objects.filter(source=row).update(**said)
        record("source.added", row.title, blog=blog.pk, after=row.url)
    return row


@dataclass(frozen=True, slots=True, kw_only=True)
class NewSource:
    """A feed that becomes a source without being read first."""

    url: str
    title: str
    labels: Sequence[str] = ()
    right: Right | None = None
    # The key that it gets where that is free; empty for one made of its title.
    key: str = ""


_MOST_TRIES = 5


def add_sources(blog: Blog, wanted: Sequence[NewSource], *, now: datetime) -> list[Source]:
    """Make feeds sources of a blog, in few statements.

    Addresses that it reads already are left out.
    """
    for _ in range(_MOST_TRIES):
        try:
            with transaction.atomic():
                return _add_new(blog, wanted, now)
        except IntegrityError:
            # Somebody has just taken one of the keys or addresses: look again what is free.
            continue
    raise Conflict("Others add sources at the same moment. Try again.")


def _add_new(blog: Blog, wanted: Sequence[NewSource], now: datetime) -> list[Source]:
    taken = set(queries.addresses_among(blog, [feed.url for feed in wanted]))
    used_keys = {"add", *queries.source_keys(blog, "")}
    rows: list[Source] = []
    for feed in wanted:
        if feed.url in taken:
            continue
        key = unused(feed.key or _stem(feed.title), used_keys)
        used_keys.add(key)
        taken.add(feed.url)
        rows.append(
            Source(
                blog=blog,
                key=key,
                url=feed.url,
                title=feed.title[:300],
                labels=sorted(set(feed.labels)),
                added_at=now,
                **_rights(feed.right),
            )
        )
    return Source.objects.bulk_create(rows)


def add_page_source(
    blog: Blog,
    reader: Reader,
    url: str,
    title: str,
    *,
    right: Right | None = None,
    rendered: bool = False,
    key: str = "",
    now: datetime,
) -> Source:
    """Add a site read by a page reader.

    Raises Conflict where the blog reads this address already.
    """
    address = normal_address(url) if url.strip() else reader.url
    try:
        with transaction.atomic():
            row = Source.objects.create(
                blog=blog,
                key=key or _free_key(blog, title),
                url=address,
                title=title[:300],
                reader=reader,
                rendered=rendered,
                added_at=now,
                **_rights(right),
            )
            SourceState.objects.filter(source=row).update(link=address, format="Web pages")
            record("source.added", row.title, blog=blog.pk, after=row.url)
            return row
    except IntegrityError as error:
        raise Conflict("A source of this blog reads this address already.") from error


def asked_of(
    blog: Blog, platform_key: str, connection: str, parameters: Mapping[str, Any]
) -> tuple["Connection | None", dict[str, Any]]:
    """Validate a platform's connection and parameters.

    Raises Invalid, and NotFound for the connection.
    """
    checked = checked_parameters(platform_key, parameters)
    row = connection_of(blog, connection) if connection else None
    if row is not None and row.platform != platform_key:
        message = f"The connection “{row.name}” is for another platform."
        raise Invalid(message, faults=[Fault(path="connection", message=message)])
    if row is None and platform_key != "json":
        message = "Choose a connection: this platform is not asked without one."
        raise Invalid(message, faults=[Fault(path="connection", message=message)])
    return row, checked


def add_platform_source(
    blog: Blog,
    platform_key: str,
    title: str,
    *,
    connection: str,
    parameters: Mapping[str, Any],
    search_words: Sequence[Mapping[str, Any]],
    right: Right | None = None,
    key: str = "",
    now: datetime,
) -> Source:
    """Add a platform source. Raises Invalid for bad parameters."""
    row, checked = asked_of(blog, platform_key, connection, parameters)
    key = key or _free_key(blog, title)
    # Sources of one platform differ by their parameters, so the address includes them.
    base = row.address if row else str(checked.get("address", ""))
    try:
        with transaction.atomic():
            made_source = Source.objects.create(
                blog=blog,
                key=key,
                url=f"{base}#{key}"[:2000],
                title=title[:300],
                added_at=now,
                **_rights(right),
            )
            PlatformAsk.objects.create(
                source=made_source,
                platform=platform_key,
                connection=row,
                parameters=checked,
                search_words=list(search_words),
            )
            SourceState.objects.filter(source=made_source).update(format=name_of_platform(platform_key))
            record("source.added", made_source.title, blog=blog.pk, after=base)
            return made_source
    except IntegrityError as error:
        raise Conflict("A source of this name has just been made.") from error


_BY_HAND = "https://taken-by-hand.invalid/"
"""Stands for an address where there is none (RFC 2606, 2: no name ends so)."""


def source_by_hand(blog: Blog, *, now: datetime) -> Source:
    """Return the source of a blog for pages imported by hand.

    It is paused, since it has no feed.
    """
    row = Source.objects.filter(blog=blog, url=_BY_HAND, removed_at=None).first()
    if row is not None:
        return row
    try:
        with transaction.atomic():
            title = "Pages taken by hand"
            row = Source.objects.create(
                blog=blog,
                key=_free_key(blog, title),
                url=_BY_HAND,
                title=title,
                paused=True,
                added_at=now,
            )
            SourceState.objects.filter(source=row).update(format=SINGLE_PAGES)
            record("source.added", row.title, blog=blog.pk)
            return row
    except IntegrityError:
        # Another request created it meanwhile.
        return Source.objects.get(blog=blog, url=_BY_HAND, removed_at=None)


SINGLE_PAGES = "Single pages"
"""The format of the source that holds pages taken by hand."""
