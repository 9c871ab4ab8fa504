"""Reads about connections."""

from collections.abc import Mapping, Sequence
from datetime import date

from django.db.models import Count, Q, QuerySet
from glyptarch_core.platforms import platform_of

from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import NotFound
from glyptarch_server.platforms.models import Connection, Usage
from glyptarch_server.platforms.states import ConnectionState

__all__ = ["connection_of", "connections_of", "keys_sharing", "limit_of", "trouble_of", "used_on", "used_with"]

_MOST = 200


def connections_of(blog: Blog) -> QuerySet[Connection]:
    """Return the connections of a blog by name, at most 200.

    ``sources_using`` is the number of their sources.
    """
    rows = Connection.objects.filter(blog=blog, removed_at=None)
    using = Count("asks", filter=Q(asks__source__removed_at=None))
    return rows.annotate(sources_using=using).order_by("name", "pk")[:_MOST]


def connection_of(blog: Blog, key: str) -> Connection:
    """Return a connection by its key. Raises NotFound."""
    row = Connection.objects.filter(blog=blog, key=key, removed_at=None).first()
    if row is None:
        raise NotFound(f"There is no connection “{key}” in this blog.")
    return row


def limit_of(connection: Connection) -> int:
    """Return the daily requests of a connection, as stated or by default.

    0 for no limit.
    """
    platform = platform_of(connection.platform)
    limit = platform.limit_a_day if platform else 0
    return limit if connection.limit_a_day is None else connection.limit_a_day


def keys_sharing(connection: Connection) -> Sequence[str]:
    """Return the keys of the sources that share a connection."""
    rows = connection.asks.filter(source__removed_at=None, source__paused=False)
    return list(rows.values_list("source__key", flat=True))


_UNFIT = frozenset({ConnectionState.WRONG, ConnectionState.EXPIRED, ConnectionState.NOT_ENABLED})


def trouble_of(connection: Connection) -> str:
    """Return why a connection cannot be used until a person acts.

    Empty where it can.
    """
    if connection.removed_at is not None:
        return "The connection was removed. Choose another one."
    return connection.detail if ConnectionState(connection.state) in _UNFIT else ""


def used_on(connection: Connection, day: date) -> Mapping[str, int]:
    """Return the number of requests on a day by user of the quota."""
    return used_with([connection], day).get(connection.pk, {})


def used_with(connections: Sequence[Connection], day: date) -> dict[int, dict[str, int]]:
    """Return, by connection number, the requests on a day by user of the quota."""
    used: dict[int, dict[str, int]] = {}
    rows = Usage.objects.filter(connection__in=connections, day=day)
    for number, who, times in rows.values_list("connection_id", "who", "used"):
        used.setdefault(number, {})[who] = times
    return used
