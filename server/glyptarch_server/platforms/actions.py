"""Changes of connections, checks, and the quota that all workers share."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.db.models import F
from glyptarch_core.errors import Fault
from glyptarch_core.platforms import platform_of
from glyptarch_core.platforms.model import Parameters, Platform, Wider
from glyptarch_core.platforms.quota import may_ask
from glyptarch_core.text import slugify
from pydantic import ValidationError

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.common.versions import lock_version
from glyptarch_server.platforms import queries
from glyptarch_server.platforms.access import fields_of, request_of, sealed_fields
from glyptarch_server.platforms.models import Connection, Usage
from glyptarch_server.platforms.signing_in import with_fresh_token
from glyptarch_server.platforms.states import ConnectionState, state_after
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchPortal

__all__ = [
    "check",
    "checked_parameters",
    "described",
    "make_connection",
    "name_of_platform",
    "note_answer",
    "remove_connection",
    "save_connection",
    "take_request",
    "wider",
]

_DAY = timedelta(days=1)
_KEPT = timedelta(days=40)


def _platform(key: str) -> "Platform[Any]":
    platform = platform_of(key)
    if platform is None:
        message = f"There is no platform “{key}”."
        raise Invalid(message, faults=[Fault(path="platform", message=message)])
    return platform


def _validated(platform_key: str, parameters: Mapping[str, Any]) -> tuple["Platform[Any]", Parameters]:
    platform = _platform(platform_key)
    try:
        return platform, platform.parameters.model_validate(parameters)
    except ValidationError as error:
        faults = [
            Fault(
                path=".".join(["parameters", *(str(part) for part in fault["loc"])]),
                message=fault["msg"].removeprefix("Value error, "),
            )
            for fault in error.errors()
        ]
        raise Invalid(f"The parameters are not valid: {faults[0].message}.", faults=faults) from error


def described(platform_key: str, parameters: Mapping[str, Any]) -> str:
    """Return parameters as a short text. Raises Invalid."""
    platform, validated = _validated(platform_key, parameters)
    return platform.described(validated)


def wider(platform_key: str, parameters: Mapping[str, Any], *, today: date) -> Wider | None:
    """Return what to ask for instead where parameters bring nothing. Raises Invalid."""
    platform, validated = _validated(platform_key, parameters)
    return platform.wider(validated, today)


def checked_parameters(platform_key: str, parameters: Mapping[str, Any]) -> dict[str, Any]:
    """Return validated parameters in their stored form. Raises Invalid."""
    return _validated(platform_key, parameters)[1].model_dump(mode="json")


def name_of_platform(key: str) -> str:
    """Return the display name of a platform. Raises Invalid where there is none."""
    return _platform(key).name


def _address(address: str) -> str:
    text = address.strip()
    if not text.startswith(("http://", "https://")):
        message = "Give the address of the platform's API, beginning with https://."
        raise Invalid(message, faults=[Fault(path="address", message=message)])
    return text


def _free_key(blog: Blog, name: str) -> str:
    taken = set(Connection.objects.filter(blog=blog).values_list("key", flat=True))
    stem = (slugify(name) or "connection")[:50]
    return next(key for number in range(len(taken) + 1) if (key := f"{stem}-{number}" if number else stem) not in taken)


def make_connection(
    blog: Blog, platform_key: str, *, name: str, address: str, fields: Mapping[str, str], now: datetime
) -> Connection:
    """Store credentials. Raises Invalid for missing ones."""
    platform = _platform(platform_key)
    sealed = sealed_fields(platform, fields, {})
    try:
        with transaction.atomic():
            row = Connection.objects.create(
                blog=blog,
                key=_free_key(blog, name),
                platform=platform.key,
                name=name,
                address=_address(address),
                sealed=sealed,
                made_at=now,
            )
            record("connection.made", row.name, blog=blog.pk, after=row.address)
            return row
    except IntegrityError as error:
        raise Conflict("A connection of this name has just been made.") from error


def save_connection(
    connection: Connection, *, name: str, address: str, fields: Mapping[str, str], begun: int | None = None
) -> None:
    """Change a connection.

    Empty secrets keep their value. A new address needs the secrets again. Raises Invalid, and Conflict where somebody
    has changed it since.
    """
    before = {"name": connection.name, "address": connection.address}
    with transaction.atomic():
        lock_version(connection, begun, connection.name)
        # A worker may have renewed the token since the row was loaded.
        connection.sealed = Connection.objects.select_for_update().get(pk=connection.pk).sealed
        stored = {} if _address(address) != connection.address else fields_of(connection)
        connection.sealed = sealed_fields(_platform(connection.platform), fields, stored)
        connection.name, connection.address = name, _address(address)
        connection.state, connection.detail = ConnectionState.UNCHECKED.value, ""
        connection.waits_until = None
        connection.save(update_fields=["sealed", "name", "address", "state", "detail", "waits_until", "version"])
        after = {"name": connection.name, "address": connection.address}
        record("connection.changed", connection.name, blog=connection.blog_id, before=before, after=after)


def remove_connection(connection: Connection, *, now: datetime) -> None:
    """Remove a connection and its secrets. Raises Conflict where a source uses it."""
    with transaction.atomic():
        row = Connection.objects.select_for_update().get(pk=connection.pk)
        used = row.asks.filter(source__removed_at=None).values_list("source__title", flat=True).first()
        if used is not None:
            raise Conflict(f"The source “{used}” uses this connection. Choose another one there first.")
        row.sealed, row.removed_at = "", now
        row.save(update_fields=["sealed", "removed_at"])
        record("connection.removed", row.name, blog=row.blog_id)


def check(connection: Connection, *, fetcher: FetchPortal, now: datetime) -> Connection:
    """Check a connection by a request to the platform, and store the result."""
    platform = _platform(connection.platform)
    ask = platform.check()
    if ask is None:
        return connection
    connection.checked_at = now
    ended = with_fresh_token(connection, fetcher=fetcher, now=now)
    if ended is None:
        _count(connection, "", now)
        (answer,) = fetcher.fetch_all([request_of(platform.key, ask, connection)])
        note_answer(connection, answer, now=now)
    connection.save(update_fields=["checked_at"])
    return connection


def note_answer(connection: Connection, answer: Fetched | FetchError, *, now: datetime) -> None:
    """Store what an answer tells about the connection: whether its key works, and the quota."""
    if isinstance(answer, FetchError) and not answer.status and answer.code is FetchCode.REFUSED:
        # No request was sent, and what is wrong with the sign-in is noted already.
        return
    state, detail = state_after(answer)
    connection.state, connection.detail = state.value, detail[:500]
    limit = _limit(answer)
    if limit is not None:
        connection.limit_a_day = limit
    if isinstance(answer, FetchError) and answer.retry_after:
        connection.waits_until = now + timedelta(seconds=min(answer.retry_after, 7 * 24 * 3600))
    elif isinstance(answer, Fetched):
        connection.waits_until = None
    connection.save(update_fields=["state", "detail", "limit_a_day", "waits_until"])


def _limit(answer: Fetched | FetchError) -> int | None:
    """Return the limit that an answer states for hours or longer.

    Headers: ``RateLimit-*``, ``X-RateLimit-*``.
    """
    if isinstance(answer, FetchError):
        return None
    headers = answer.headers
    for prefix in ("ratelimit-", "x-ratelimit-"):
        limit, reset = headers.get(f"{prefix}limit", "").partition(",")[0], headers.get(f"{prefix}reset", "")
        # A limit per minute is no daily quota; a 429 says when to try again.
        if limit.isdecimal() and len(limit) < 8 and reset.isdecimal() and int(reset) >= 3600:  # noqa: PLR2004
            return int(limit)
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class Refused:
    """Why no request may be made now, and until when."""

    message: str
    until: datetime


def take_request(connection: Connection, who: str, among: Sequence[str], *, now: datetime) -> Refused | None:
    """Count one request against today's quota for ``who``, or return the refusal.

    The row of the connection is locked, so that several workers never exceed the quota.
    """
    day = now.astimezone(UTC)
    tomorrow = datetime.combine(day.date() + _DAY, time(), tzinfo=UTC)
    with transaction.atomic():
        row = Connection.objects.select_for_update().get(pk=connection.pk)
        if row.waits_until is not None and row.waits_until > now:
            return Refused(message=f"“{row.name}” was asked too often; it waits.", until=row.waits_until)
        limit, used = queries.limit_of(row), dict(queries.used_on(row, day.date()))
        passed = 1 - (tomorrow - day) / _DAY
        shared = {**dict.fromkeys(among, 0), who: 0, **used}
        if not may_ask(who, shared, limit=limit, passed=passed):
            total = sum(used.values())
            error = (
                f"The {limit} requests of today with “{row.name}” are used up."
                if total >= limit
                else (f"The share of this source in the {limit} requests a day with “{row.name}” is used up for now.")
            )
            until = tomorrow if total >= limit else min(tomorrow, now + timedelta(hours=1))
            return Refused(message=error, until=until)
        _count(row, who, now)
    return None


def _count(connection: Connection, who: str, now: datetime) -> None:
    day = now.astimezone(UTC).date()
    row, is_new = Usage.objects.get_or_create(connection=connection, day=day, who=who)
    if is_new:
        Usage.objects.filter(connection=connection, day__lt=day - _KEPT).delete()
    Usage.objects.filter(pk=row.pk).update(used=F("used") + 1)
