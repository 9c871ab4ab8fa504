"""Whether a page is asked for by a reader, or by a program."""

import re
from collections.abc import Callable

__all__ = ["is_from_reader"]

# Programs say what they are, or nothing at all (RFC 9110, 10.1.5).
_PROGRAM = re.compile(
    r"bot|crawl|spider|slurp|preview|fetch|monitor|curl|wget|python|java/|http|headless|feed", re.IGNORECASE
)
_AHEAD = ("sec-purpose", "purpose", "x-moz")


def is_from_reader(method: str, header: Callable[[str], str]) -> bool:
    """Whether a request is one of a reader.

    Those of programs are not, nor what browsers ask for ahead of their readers. ``header`` returns the value of a
    header by its name in small letters, empty for none.
    """
    agent = header("user-agent")
    return method == "GET" and bool(agent) and not _PROGRAM.search(agent) and not any(map(header, _AHEAD))
