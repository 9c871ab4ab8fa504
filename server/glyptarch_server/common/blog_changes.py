"""Changes of what the blogs show, as PostgreSQL tells them.

Triggers send them (``front/migrations/0001_told_changes.py``). A process that keeps pages listens on a connection
of its own. Each message has a number, so that one can tell whether a page was overtaken by a change while it was
made. While the connection is down, nothing may be kept.
"""

import asyncio
import logging
from collections import OrderedDict
from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass
from typing import Any, TypeAlias

import psycopg
from django.db import connection

__all__ = ["CHANGED", "CHANNEL", "GOODS", "GROWN", "BlogChanges", "Change", "changes", "connection_parameters"]

CHANNEL = "blog_pages"

_SECONDS_BETWEEN_CHECKS = 5.0
_SECONDS_FOR_A_CHECK = 2.0
_SECONDS_TO_CONNECT_AGAIN = 1.0
_MOST_BLOGS = 10_000

GROWN = "grown"
"""The kind of change where a post came in that older pages merely lack."""
CHANGED = "changed"
GOODS = "goods"
"""The kind of change where only what is shown of one product differs."""

_MOST_GOODS = 10_000

_log = logging.getLogger("glyptarch.front")


@dataclass(frozen=True, slots=True)
class Change:
    """A change of what a blog shows.

    ``blog`` is None for all blogs, ``product`` the row of a changed product.
    """

    blog: int | None
    kind: str
    product: int | None = None


_Listener: TypeAlias = Callable[[Change], None]


def connection_parameters() -> dict[str, Any]:
    """Return the database's parameters for a plain connection of psycopg."""
    parameters = connection.get_connection_params()
    names = ("host", "port", "dbname", "user", "password")
    return {name: parameters[name] for name in names if name in parameters}


class BlogChanges:
    """The changes that this process has heard of.

    A blog *grew* where a post came in: a list without it is not wrong, only a little old. Every other change makes what
    was made before it wrong.
    """

    def __init__(self) -> None:
        self._listening = False
        self._number = self._first = 0
        self._changed: dict[int, int] = {}
        self._grown: dict[int, int] = {}
        # The last changes of products; of those forgotten, the number of the newest.
        self._goods: OrderedDict[int, int] = OrderedDict()
        self._goods_forgotten = 0
        self._listeners: list[_Listener] = []
        self._task: asyncio.Task[None] | None = None

    @property
    def number(self) -> int | None:
        """The number of the last message. None while the connection is down."""
        return self._number if self._listening else None

    def changed_since(self, blog: int, number: int) -> bool:
        """Whether a page of a blog, begun at this number, may be wrong."""
        return not self._listening or self._changed.get(blog, self._first) > number

    def goods_changed_since(self, products: Collection[int], number: int) -> bool:
        """Whether one of these products may differ from what was shown at this number."""
        if not products:
            return False
        return self._goods_forgotten > number or any(self._goods.get(one, 0) > number for one in products)

    def any_goods_changed_since(self, number: int) -> bool:
        """Whether any product of any blog has changed since this number."""
        newest = next(reversed(self._goods.values()), 0)
        return max(newest, self._goods_forgotten) > number

    def grew_since(self, blog: int, number: int) -> bool:
        """Whether a post has come in since this number."""
        return self._grown.get(blog, 0) > number

    def version_of(self, blog: int) -> int | None:
        """Return a number that grows with each message about a blog.

        None while the connection is down.
        """
        if not self._listening:
            return None
        return max(self._changed.get(blog, self._first), self._grown.get(blog, 0))

    def call(self, listener: _Listener) -> None:
        """Call a function with each change."""
        self._listeners.append(listener)

    def listen(self, parameters: Callable[[], Mapping[str, Any]]) -> None:
        """Listen from now on, in the running event loop.

        ``parameters`` returns those of psycopg's ``connect``.
        """
        if self._task is None or self._task.done():
            self._task = asyncio.get_running_loop().create_task(self._keep_listening(parameters))

    def hear(self, message: str) -> None:
        """Take in a message: ``12 changed``, ``12 grown``, or ``12 goods 345`` of product 345."""
        number, _, rest = message.partition(" ")
        kind, _, product = rest.partition(" ")
        if not number.isdigit():
            return
        blog = int(number)
        self._number += 1
        if kind == GOODS and product.isdigit():
            self._hear_of_goods(blog, int(product))
            return
        (self._grown if kind == GROWN else self._changed)[blog] = self._number
        if len(self._changed) + len(self._grown) > _MOST_BLOGS:
            self.begin_anew()
            return
        for listener in self._listeners:
            listener(Change(blog, GROWN if kind == GROWN else CHANGED))

    def _hear_of_goods(self, blog: int, product: int) -> None:
        self._goods[product] = self._number
        self._goods.move_to_end(product)
        if len(self._goods) > _MOST_GOODS:
            _, self._goods_forgotten = self._goods.popitem(last=False)
        for listener in self._listeners:
            listener(Change(blog, GOODS, product))

    def begin_anew(self, *, listening: bool = True) -> None:
        """Forget all numbers.

        Everything made before may have been overtaken by a change that was not heard.
        """
        self._listening = listening
        self._number += 1
        self._first = self._number
        self._changed.clear()
        self._grown.clear()
        self._goods.clear()
        self._goods_forgotten = self._number
        for listener in self._listeners:
            listener(Change(None, CHANGED))

    async def _keep_listening(self, parameters: Callable[[], Mapping[str, Any]]) -> None:
        while True:
            try:
                await self._listen(parameters())
            except (OSError, psycopg.Error) as error:
                _log.warning("Changes of blogs are not heard, so no page is kept: %s", error)
            finally:
                self.begin_anew(listening=False)
            await asyncio.sleep(_SECONDS_TO_CONNECT_AGAIN)

    async def _listen(self, parameters: Mapping[str, Any]) -> None:
        listening = await psycopg.AsyncConnection.connect(**parameters)
        async with listening:
            await listening.set_autocommit(True)
            await listening.execute(f"LISTEN {CHANNEL}")
            self.begin_anew()
            while True:
                async for message in listening.notifies(timeout=_SECONDS_BETWEEN_CHECKS):
                    self.hear(message.payload)
                # A connection that was cut off without a word would stay silent for ever.
                async with asyncio.timeout(_SECONDS_FOR_A_CHECK):
                    await listening.execute("SELECT 1")


changes = BlogChanges()
