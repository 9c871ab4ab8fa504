"""Adding, removing and reading sources."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict
from datetime import datetime, timedelta
from typing import Any

import yaml
from django.db import IntegrityError, transaction
from django.db.models import Q
from glyptarch_core.errors import Fault, ParseError
from glyptarch_core.health import Report
from glyptarch_core.item import Right
from glyptarch_core.pages.completing import text_at
from glyptarch_core.polling import after_failure, after_success
from glyptarch_core.readers import Feed
from glyptarch_core.text import slugify, title_key, unused

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.hosts import checked_hosts
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.pages.models import Reader
from glyptarch_server.pages.queries import reader_of
from glyptarch_server.platforms.actions import checked_parameters, name_of_platform
from glyptarch_server.platforms.models import Connection
from glyptarch_server.platforms.queries import connection_of
from glyptarch_server.sources import queries
from glyptarch_server.sources.access import access_of, sealed
from glyptarch_server.sources.checking import Checked, check_addresses, normal_address
from glyptarch_server.sources.gathering import Outcome, SourceAnswer
from glyptarch_server.sources.models import AddressPattern, Reading, Source
from glyptarch_server.wiring import (
    FetchCode,
    Fetched,
    FetchError,
    FetchPortal,
    may_share_secrets,
)

__all__ = [
    "add_page_source",
    "add_source",
    "change_access",
    "change_many",
    "change_source",
    "claim_due",
    "keep_health",
    "log_reading",
    "log_unchanged",
    "remove_source",
    "set_pushed_until",
    "source_by_hand",
]


def _free_key(blog: Blog, title: str) -> str:
    base = slugify(title, longest=50).encode("ascii", "ignore").decode().strip("-") or "source"
    taken = queries.source_keys(blog, base)
    # The screen that adds sources has the address of one called “add”.
    return unused(base, {*taken, "add"})


def add_source(blog: Blog, url: str, title: str, *, fetcher: FetchPortal, now: datetime) -> tuple[Source, Feed]:
    """Read an address once more and make it a source.

    Raises Invalid when it is no feed any more, Conflict when the blog reads it already.
    """
    checked = check_addresses([url], fetcher)[0]
    if checked.feed is None:
        raise Invalid(checked.detail or "This address leads to feeds, but is none itself. Choose one of them.")
    known = queries.address_taken(blog, checked.url)
    if known is not None:
        raise Conflict(f"“{known.title}” already reads this address.")
    return _make(blog, checked, checked.feed, title, now), checked.feed


def _make(blog: Blog, checked: Checked, feed: Feed, title: str, now: datetime) -> Source:
    name = title.strip() or feed.title or checked.url
    try:
        with transaction.atomic():
            made = Source.objects.create(
                blog=blog,
                key=_free_key(blog, title_key(name)),
                url=checked.url,
                title=name[:300],
                link=feed.link[:2000],
                format=feed.format[:40],
                language=feed.language[:35],
                added_at=now,
            )
            record("source.added", made.title, blog=blog.pk, after=made.url)
            return made
    except IntegrityError as error:
        raise Conflict("This address has just been added by someone else.") from error


def add_page_source(
    blog: Blog, reader: Reader, url: str, title: str, *, rendered: bool = False, now: datetime
) -> Source:
    """Make a site a source, read by a page reader. Raises Conflict when the blog reads this address already."""
    address = normal_address(url) if url.strip() else reader.url
    try:
        with transaction.atomic():
            made = Source.objects.create(
                blog=blog,
                key=_free_key(blog, title_key(title)),
                url=address,
                title=title[:300],
                link=address,
                format="Web pages",
                reader=reader,
                rendered=rendered,
                added_at=now,
            )
            record("source.added", made.title, blog=blog.pk, after=made.url)
            return made
    except IntegrityError as error:
        raise Conflict("A source of this blog reads this address already.") from error


def _asks(
    blog: Blog, platform_key: str, connection: str, parameters: Mapping[str, Any]
) -> tuple["Connection | None", dict[str, Any]]:
    """Check what a platform is asked for. Raises Invalid, and NotFound for a connection that is not there."""
    checked = checked_parameters(platform_key, parameters)
    row = connection_of(blog, connection) if connection else None
    if row is not None and row.platform != platform_key:
        message = f"The connection “{row.name}” is for another platform."
        raise Invalid(message, faults=[Fault(path="connection", message=message)])
    if row is None and platform_key != "json":
        message = "Choose a connection: this platform is not asked without one."
        raise Invalid(message, faults=[Fault(path="connection", message=message)])
    return row, checked


def keep_pattern(blog: Blog, name: str, address: str) -> AddressPattern:
    """Keep a pattern of addresses. Raises Invalid where it has not one named place, Conflict for a name twice."""
    if queries.place_of(address) == "":
        message = "Write the name of what is filled in once, in braces: https://film.example/feed?channel={channel}"
        raise Invalid(message, faults=[Fault(path="address", message=message)])
    try:
        with transaction.atomic():
            made = AddressPattern.objects.create(blog=blog, name=name, address=address)
            record("pattern.kept", name, blog=blog.pk, after=address)
            return made
    except IntegrityError as error:
        raise Conflict(f"There is a pattern “{name}” already.") from error


def remove_pattern(blog: Blog, number: int) -> None:
    """Remove a pattern; the sources made with it stay."""
    row = queries.pattern_of(blog, number)
    with transaction.atomic():
        record("pattern.removed", row.name, blog=blog.pk)
        row.delete()


def add_platform_source(
    blog: Blog,
    platform_key: str,
    title: str,
    *,
    connection: str,
    parameters: Mapping[str, Any],
    search_words: Sequence[Mapping[str, Any]],
    now: datetime,
) -> Source:
    """Make what a platform is asked for a source. Raises Invalid for what does not hold."""
    row, checked = _asks(blog, platform_key, connection, parameters)
    key = _free_key(blog, title_key(title))
    # Two sources of one platform differ by what they ask for: their address names them.
    base = row.address if row else str(checked.get("address", ""))
    try:
        with transaction.atomic():
            made = Source.objects.create(
                blog=blog,
                key=key,
                url=f"{base}#{key}"[:2000],
                title=title[:300],
                link="",
                format=name_of_platform(platform_key),
                platform=platform_key,
                connection=row,
                parameters=checked,
                search_words=list(search_words),
                added_at=now,
            )
            record("source.added", made.title, blog=blog.pk, after=base)
            return made
    except IntegrityError as error:
        raise Conflict("A source of this name has just been made.") from error


def asks_as_yaml(source: Source) -> str:
    """Write what a source asks its platform for as YAML. Raises Conflict where it is no platform."""
    if not source.platform:
        raise Conflict("This source is no platform.")
    # What is as it is by itself need not be written.
    parameters = {name: value for name, value in source.parameters.items() if value not in ("", None, [], {})}
    written = {
        "platform": source.platform,
        "title": source.title,
        "parameters": parameters,
        "search_words": source.search_words,
    }
    return yaml.safe_dump(written, sort_keys=False, allow_unicode=True)


def asks_from_yaml(text: str) -> dict[str, Any]:
    """Read what :func:`asks_as_yaml` writes. Raises Invalid with what is wrong."""
    try:
        given = yaml.safe_load(text)
    except (yaml.YAMLError, RecursionError) as error:
        raise Invalid(f"This is no YAML: {str(error).splitlines()[0]}") from error
    if not isinstance(given, dict) or not isinstance(given.get("parameters", {}), dict):
        raise Invalid("This YAML says nothing of a platform. It begins with “platform:”, then “parameters:”.")
    platform = str(given.get("platform", ""))
    lines = given.get("search_words") or []
    words = [line if isinstance(line, dict) else {"text": line} for line in lines] if isinstance(lines, list) else []
    return {
        "platform": platform,
        "title": str(given.get("title") or "")[:300],
        "parameters": checked_parameters(platform, given.get("parameters") or {}),
        "search_words": [{"text": str(line.get("text", ""))[:200], "on": _is_on(line)} for line in words[:100]],
    }


def _is_on(line: Mapping[Any, Any]) -> bool:
    # In YAML 1.1 a bare “on” is the value true, as a name as well.
    return line.get("on", line.get(True, True)) is not False


def change_asks(
    source: Source, *, connection: str, parameters: Mapping[str, Any], search_words: Sequence[Mapping[str, Any]]
) -> None:
    """Change what a source asks its platform for. Raises Invalid for what does not hold."""
    if not source.platform:
        raise Conflict("This source is no platform.")
    row, checked = _asks(source.blog, source.platform, connection, parameters)
    before = {"parameters": source.parameters, "search_words": source.search_words}
    source.connection, source.parameters, source.search_words = row, checked, list(search_words)
    with transaction.atomic():
        source.save(update_fields=["connection", "parameters", "search_words"])
        after = {"parameters": source.parameters, "search_words": source.search_words}
        record("source.changed", source.title, blog=source.blog_id, before=before, after=after)


_BY_HAND = "https://taken-by-hand.invalid/"
"""Stands for an address where there is none (RFC 2606, 2: no name ends so)."""


def source_by_hand(blog: Blog, *, now: datetime) -> Source:
    """Give the source of a blog that holds pages taken by hand. It is paused, since there is nothing to read."""
    found = Source.objects.filter(blog=blog, url=_BY_HAND, removed_at=None).first()
    if found is not None:
        return found
    try:
        with transaction.atomic():
            title = "Pages taken by hand"
            made = Source.objects.create(
                blog=blog,
                key=_free_key(blog, title_key(title)),
                url=_BY_HAND,
                title=title,
                format=SINGLE_PAGES,
                paused=True,
                added_at=now,
            )
            record("source.added", made.title, blog=blog.pk)
            return made
    except IntegrityError:
        # Somebody else has made it in this moment.
        return Source.objects.get(blog=blog, url=_BY_HAND, removed_at=None)


SINGLE_PAGES = "Single pages"
"""The format of the source that holds pages taken by hand."""

_CHANGEABLE = ["title", "right", "right_words", "attribution", "keyword", "reads_pages", "full_text_words"]
_CHANGEABLE += ["text_reader_id", "text_selector", "rendered", "rendered_hosts"]


def change_source(
    source: Source,
    title: str,
    *,
    right: Right,
    words: int,
    attribution: str,
    keyword: str = "",
    reads_pages: bool = False,
    full_text_words: int = 0,
    text_reader: str = "",
    text_selector: str = "",
    rendered: bool = False,
    rendered_hosts: Sequence[str] = (),
) -> None:
    """Give a source another name or other rights, and say what else is known of it or asked for.

    Raises Invalid for a selector or a host that cannot be read, NotFound for a page reader that is not there.
    """
    hosts = checked_hosts(rendered_hosts, path="rendered_hosts")
    try:
        text_at(text_selector.strip() or "p")
    except ValueError as error:
        message = f"The selector of the text cannot be read: {text_selector.strip()}"
        raise Invalid(message, faults=[Fault(path="text_selector", message=message)]) from error
    reader = reader_of(source.blog, text_reader) if text_reader else None
    before = {name: getattr(source, name) for name in _CHANGEABLE}
    source.title, source.right, source.right_words = title, right.value, words
    source.attribution, source.keyword = attribution.strip(), keyword.strip()
    source.reads_pages = reads_pages
    source.full_text_words, source.rendered, source.rendered_hosts = full_text_words, rendered, hosts
    source.text_reader, source.text_selector = reader, text_selector.strip()
    after = {name: getattr(source, name) for name in _CHANGEABLE}
    if before["rendered"] != after["rendered"]:
        source.etag = source.last_modified = ""
    with transaction.atomic():
        source.save(update_fields=[*_CHANGEABLE, "etag", "last_modified"])
        record("source.changed", source.title, blog=source.blog_id, before=before, after=after)


def change_access(
    source: Source,
    *,
    headers: Sequence[Mapping[str, str]],
    user: str,
    password: str,
    any_certificate: bool,
    pause_ms: int,
) -> None:
    """Set how a source is asked. An empty secret keeps the known one. The audit list gets names, never values.

    Raises Invalid for a header that is none.
    """
    source.access_sealed = sealed(access_of(source), headers=headers, user=user.strip(), password=password)
    source.any_certificate, source.pause_ms = any_certificate, pause_ms
    told = {
        "headers": [header["name"] for header in headers],
        "sign_in": bool(user.strip()),
        "any_certificate": any_certificate,
        "pause_ms": pause_ms,
    }
    with transaction.atomic():
        source.save(update_fields=["access_sealed", "any_certificate", "pause_ms"])
        record("source.access", source.title, blog=source.blog_id, after=told)


def change_many(sources: Sequence[Source], change: str, label: str = "", *, now: datetime) -> int:
    """Pause, resume, label, unlabel or remove sources. Gives how many changed. Raises Invalid for an empty label."""
    name = label.strip()
    if change in {"label", "unlabel"} and not name:
        raise Invalid("Give the label a name.", faults=[Fault(path="label", message="Give the label a name.")])
    changed = 0
    with transaction.atomic():
        for source in sources:
            before = (source.paused, list(source.labels), source.removed_at)
            _CHANGES[change](source, name, now)
            if before != (source.paused, source.labels, source.removed_at):
                changed += 1
                source.save(update_fields=["paused", "labels", "removed_at"])
                record(f"source.{_DONE[change]}", source.title, blog=source.blog_id, after=name or None)
    return changed


def _pause(source: Source, _label: str, _now: datetime) -> None:
    source.paused = True


def _resume(source: Source, _label: str, _now: datetime) -> None:
    source.paused = False


def _label(source: Source, label: str, _now: datetime) -> None:
    source.labels = sorted({*source.labels, label[:60]})


def _unlabel(source: Source, label: str, _now: datetime) -> None:
    source.labels = [one for one in source.labels if one != label]


def _remove(source: Source, _label: str, now: datetime) -> None:
    source.removed_at = now


_CHANGES: dict[str, Callable[[Source, str, datetime], None]] = {
    "pause": _pause,
    "resume": _resume,
    "label": _label,
    "unlabel": _unlabel,
    "remove": _remove,
}
_DONE = {"pause": "paused", "resume": "resumed", "label": "labelled", "unlabel": "unlabelled", "remove": "removed"}


def remove_source(source: Source, *, now: datetime) -> None:
    """Stop reading a source. Its items and the posts made of them stay."""
    source.removed_at = now
    with transaction.atomic():
        source.save(update_fields=["removed_at"])
        record("source.removed", source.title, blog=source.blog_id, before=source.url)


_PLAN = ["next_read_at", "failures", "failing_since", "gone_at", "skip_hours"]

_WHILE_PUSHED = timedelta(hours=6)
"""How long is waited between two readings of a source whose news a hub pushes."""
_LONGEST_ADDRESS = 2000
_MOVED_AFTER = 3
"""Readings in a row that a permanent redirect must hold before it is believed."""


def _follow_move(source: Source, moved_to: str) -> None:
    """Take the new address once a source has moved for good (RFC 9110, 15.4.2), unless another source has it.

    A source with secrets, or whose certificate nobody vouches for, follows to no other host by itself: they would
    be sent to whoever answers there.
    """
    trusted = source.access_sealed or source.any_certificate
    if len(moved_to) > _LONGEST_ADDRESS or (trusted and not may_share_secrets(source.url, moved_to)):
        moved_to = ""
    if moved_to != source.moved_to:
        source.moved_to, source.moved_times = moved_to, 0
    if moved_to:
        source.moved_times += 1
    if source.moved_times >= _MOVED_AFTER and queries.address_taken_by_id(source.blog_id, moved_to) is None:
        _move(source, moved_to)
    source.save(update_fields=["moved_to", "moved_times"])


def _move(source: Source, to: str) -> None:
    before = source.url
    try:
        with transaction.atomic():
            Source.objects.filter(pk=source.pk).update(url=to, former_url=before)
            record("source.moved", source.title, blog=source.blog_id, before=before, after=to)
    except IntegrityError:
        # Another source has taken the address in this moment: this one stays where it is.
        return
    source.former_url, source.url = before, to
    source.moved_to, source.moved_times = "", 0


def _plan_next_read(source: Source, outcome: Outcome, now: datetime) -> None:
    """Set when a source may be read again by itself, from how a reading went."""
    if isinstance(outcome, Feed | Fetched):
        read = isinstance(outcome, Feed)
        wished = outcome.wished if isinstance(outcome, Feed) else timedelta(seconds=outcome.max_age)
        skip = outcome.skip_hours if isinstance(outcome, Feed) else frozenset(source.skip_hours)
        if read:
            source.skip_hours = sorted(skip)
        source.failures, source.failing_since, source.gone_at = 0, None, None
        if source.pushed_until and source.pushed_until > now:
            wished = max(wished, _WHILE_PUSHED)
        source.next_read_at = now + after_success(wished=wished, now=now, skip_hours=skip)
    else:
        asked = timedelta(seconds=outcome.retry_after if isinstance(outcome, FetchError) else 0)
        source.failures += 1
        source.failing_since = source.failing_since or now
        source.next_read_at = now + after_failure(source.failures, source.key, asked=asked)
        if isinstance(outcome, FetchError) and outcome.code is FetchCode.GONE:
            source.gone_at = source.gone_at or now


_CLAIMED_FOR = timedelta(minutes=2)


def claim_due(sources: Sequence[Source], *, now: datetime) -> list[Source]:
    """Give those sources that may be read by themselves now, each to one caller only.

    Two campaigns that run at one time so cost a source they share one request. What is gone (410)
    or asked to be left alone is not given.
    """
    due = Source.objects.filter(pk__in=[source.pk for source in sources], gone_at=None, paused=False, blocked_at=None)
    due = due.filter(Q(next_read_at=None) | Q(next_read_at__lte=now)).order_by("pk")
    with transaction.atomic():
        # Whoever holds a row claims it: it is passed over here.
        free = set(due.select_for_update(skip_locked=True).values_list("pk", flat=True))
        Source.objects.filter(pk__in=free).update(next_read_at=now + _CLAIMED_FOR)
    return [source for source in sources if source.pk in free]


def keep_health(source: Source, report: Report, *, now: datetime) -> None:
    """Keep what was found of how a source does."""
    source.health, source.health_data, source.judged_at = report.health.value, dict(report.data), now
    source.save(update_fields=["health", "health_data", "judged_at"])


def _save_what_it_says(source: Source, answer: SourceAnswer) -> None:
    fields = ["etag", "last_modified", "format", "language", "link", "pushed_until"]
    # A push is the feed's news alone: whether the feed names a hub is known from reading it.
    source.save(update_fields=fields if answer.pushed else [*fields, "hub", "topic"])


def set_pushed_until(source: Source, until: datetime | None) -> None:
    """Say until when a hub pushes what is new in a source; none where it does not."""
    source.pushed_until = until
    source.save(update_fields=["pushed_until"])


def log_unchanged(pairs: Sequence[tuple[Source, SourceAnswer]], *, now: datetime) -> list[Reading]:
    """Keep that these sources answered that nothing has changed: with a few statements for all of them."""
    for source, answer in pairs:
        _plan_next_read(source, answer.outcome, now)
    # They did not fail before, so that only the time of the next reading differs; many share it.
    by_time: dict[datetime | None, list[int]] = {}
    for source, _ in pairs:
        by_time.setdefault(source.next_read_at, []).append(source.pk)
    for at, numbers in by_time.items():
        Source.objects.filter(AnyOf("pk", numbers)).update(next_read_at=at)
    return Reading.objects.bulk_create(
        Reading(source=source, at=now, milliseconds=answer.milliseconds, not_modified=True, status=answer.status)
        for source, answer in pairs
    )


def log_reading(source: Source, answer: SourceAnswer, *, fresh: int, now: datetime) -> Reading:
    """Keep how a reading went, with the state that makes the next one cheap."""
    outcome = answer.outcome
    reading = Reading(
        source=source, at=now, milliseconds=answer.milliseconds, fresh=fresh, status=answer.status, size=answer.size
    )
    _plan_next_read(source, outcome, now)
    source.save(update_fields=_PLAN)
    if answer.moved_to or source.moved_to:
        _follow_move(source, answer.moved_to)
    match outcome:
        case Feed():
            reading.found = len(outcome.items)
            reading.warnings = [asdict(warning) for warning in outcome.warnings[:20]]
            source.format, source.language = outcome.format[:40], outcome.language[:35]
            source.link = outcome.link[:2000]
            source.hub, source.topic = outcome.hub[:2000], (outcome.self_link or source.url)[:2000]
            if not outcome.hub:
                source.topic = ""
            if fresh and source.pushed_until and not answer.pushed:
                # The hub should have pushed these: it has fallen silent, and polling is taken up again.
                source.pushed_until = None
            _save_what_it_says(source, answer)
        case Fetched():
            reading.not_modified = True
        case FetchError():
            reading.error, reading.detail = outcome.code.value, str(outcome)[:500]
        case ParseError():
            reading.error, reading.detail = outcome.code, str(outcome)[:500]
    reading.save()
    return reading
