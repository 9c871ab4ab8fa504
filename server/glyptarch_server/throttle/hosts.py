"""Turns at hosts in PostgreSQL, shared by all processes on all machines.

A turn is a row with an end, so nothing needs a session of the database. Times are the database's.
"""

import hashlib
import secrets
from collections.abc import Mapping, Sequence
from datetime import timedelta
from typing import Any

from django.db import DatabaseError, connection
from django.db.models.functions import Now

from glyptarch_server.throttle.models import HostTurn
from glyptarch_server.wiring import LEASE_SECONDS, EndedTurn

__all__ = ["SharedHosts", "remove_unused_turns"]

_AT_ONCE = 2
_LEASE = timedelta(seconds=LEASE_SECONDS)
_UNUSED_AFTER = timedelta(hours=1)

# A host that wants pauses has one turn, or two connections would halve its pause. Rows are locked in the order of their
# keys, here and below, so that two processes cannot wait for each other.
_TAKE = """
INSERT INTO throttle_hostturn AS kept (key, holder, ends_at)
SELECT wanted.host || ':' || free.number, %(holder)s, clock_timestamp() + %(lease)s
FROM unnest(%(hosts)s::text[], %(turns)s::int[]) AS wanted (host, turns)
CROSS JOIN LATERAL (
    SELECT number FROM generate_series(1, wanted.turns) AS number
    WHERE NOT EXISTS (
        SELECT FROM throttle_hostturn AS held
        WHERE held.key = wanted.host || ':' || number AND held.ends_at > clock_timestamp()
    )
    ORDER BY number LIMIT 1
) AS free
ORDER BY 1
ON CONFLICT (key) DO UPDATE SET holder = excluded.holder, ends_at = excluded.ends_at
WHERE kept.ends_at <= clock_timestamp()
RETURNING key
"""
_SET_ENDS = """
UPDATE throttle_hostturn AS turn SET holder = %(next)s, ends_at = clock_timestamp() + own.rest
FROM (
    SELECT held.key, ended.rest
    FROM throttle_hostturn AS held
    JOIN unnest(%(keys)s::text[], %(rests)s::interval[]) AS ended (key, rest) USING (key)
    WHERE held.holder = %(holder)s
    ORDER BY held.key
    FOR UPDATE OF held
) AS own
WHERE turn.key = own.key
RETURNING turn.key
"""


def _hashed(host: str) -> str:
    # Names come from strangers, may be long, and may have characters that PostgreSQL refuses.
    return hashlib.sha256(host.encode("utf-8", "surrogatepass")).hexdigest()[:32]


class SharedHosts:
    """The turns of this process among those of all (``HostStore``)."""

    def __init__(self) -> None:
        self._holder = secrets.token_hex(8)

    def exchange(self, ended: Sequence[EndedTurn], wanted: Mapping[str, float]) -> Mapping[str, str]:
        """Free the ended turns, then take one at each wanted host that has one free."""
        self._set_ends({turn.key: timedelta(seconds=turn.rest) for turn in ended}, next_holder="")
        if not wanted:
            return {}
        hosts = {_hashed(host): host for host in wanted}
        turns = [1 if pause else _AT_ONCE for pause in wanted.values()]
        values = {"holder": self._holder, "lease": _LEASE, "hosts": list(hosts), "turns": turns}
        return {hosts[key.partition(":")[0]]: key for (key,) in _rows(_TAKE, values)}

    def renew(self, keys: Sequence[str]) -> None:
        """Hold turns for another ``LEASE_SECONDS``."""
        self._set_ends(dict.fromkeys(keys, _LEASE), next_holder=self._holder)

    def rest(self) -> None:
        """Release the thread's connection while nothing is asked for."""
        connection.close()

    def _set_ends(self, rests: Mapping[str, timedelta], *, next_holder: str) -> None:
        if rests:
            values = {"next": next_holder, "keys": list(rests), "rests": list(rests.values()), "holder": self._holder}
            _rows(_SET_ENDS, values)


def _rows(statement: str, values: Mapping[str, Any]) -> list[tuple[Any, ...]]:
    """Execute a statement and return its rows.

    After an error the next call opens a new connection.
    """
    try:
        with connection.cursor() as cursor:
            cursor.execute(statement, values)
            return list(cursor.fetchall())
    except DatabaseError:
        connection.close()
        raise


def remove_unused_turns() -> int:
    """Remove the turns at hosts that nobody has asked for an hour.

    Return how many.
    """
    return HostTurn.objects.filter(ends_at__lte=Now() - _UNUSED_AFTER).delete()[0]
