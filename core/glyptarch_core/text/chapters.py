"""JSON chapters of the podcast namespace, as lines of time and title."""

import re
from dataclasses import dataclass

from glyptarch_core.text.clean import clean_line
from glyptarch_core.text.foreign_json import load_json

__all__ = ["Chapter", "chapters_as_lines", "chapters_in"]

_MOST = 200
_LONGEST_TITLE = 200
_LATEST = 360_000
_LINE = re.compile(r"(?:(\d{1,3}):)?(\d{1,2}):(\d{2}) (\S.*)")


@dataclass(frozen=True, slots=True, kw_only=True)
class Chapter:
    """A chapter: its beginning in seconds, the same as text (``1:05:00``), and its title."""

    seconds: int
    time: str
    title: str


def chapters_as_lines(body: bytes) -> str:
    """Return JSON chapters (podcastindex.org, JSON chapters 1.2) as lines.

    Empty for none. Chapters hidden from the table of contents (``toc`` is false) are left out.
    """
    try:
        data = load_json(body)
    except ValueError:
        return ""
    rows = data.get("chapters") if isinstance(data, dict) else None
    lines: list[str] = []
    for row in (rows if isinstance(rows, list) else [])[:_MOST]:
        if not isinstance(row, dict) or row.get("toc") is False:
            continue
        begin, title = row.get("startTime"), row.get("title")
        if isinstance(begin, bool) or not isinstance(begin, int | float) or not isinstance(title, str):
            continue
        if not 0 <= begin <= _LATEST or not (name := clean_line(title, _LONGEST_TITLE)):
            continue
        lines.append(f"{_written(int(begin))} {name}")
    return "\n".join(lines)


def _written(seconds: int) -> str:
    hours, rest = divmod(seconds, 3600)
    minutes, left = divmod(rest, 60)
    return f"{hours}:{minutes:02}:{left:02}" if hours else f"{minutes}:{left:02}"


def chapters_in(lines: str) -> list[Chapter]:
    """Read lines of a time and a title."""
    matches = (_LINE.fullmatch(line) for line in lines.split("\n"))
    return [
        Chapter(
            seconds=int(match[1] or 0) * 3600 + int(match[2]) * 60 + int(match[3]),
            time=match[0].partition(" ")[0],
            title=match[4],
        )
        for match in matches
        if match
    ]
