"""``with no_io():`` fails the moment the code inside opens a file, a socket or a process."""

import contextlib
import sys
from collections.abc import Iterator
from typing import Any

_BANNED = ("open", "socket.", "subprocess.", "urllib.")
_LATE_IMPORT = (".py", ".pyc", ".so")
_armed = False


def _refuse(event: str, args: tuple[Any, ...]) -> None:
    if not _armed or not event.startswith(_BANNED):
        return
    if event == "open" and str(args[0]).endswith(_LATE_IMPORT):
        return
    raise AssertionError(f"core did I/O: {event} {args[:1]}")


sys.addaudithook(_refuse)


@contextlib.contextmanager
def no_io() -> Iterator[None]:
    """Refuse input and output inside the block."""
    global _armed  # noqa: PLW0603 - an audit hook cannot be taken off again, only disarmed
    _armed = True
    try:
        yield
    finally:
        _armed = False
