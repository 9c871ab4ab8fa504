"""Traces without posts of blogs on which the reader has no role."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from typing import Any

from glyptarch_server.posts.queries import blogs_of_posts

__all__ = ["readable_notes"]

_KEPT = ("against", "join", "within_pass", "likeness", "limit")
"""What stays of a comparison whose post may not be seen: only what it says of the rule."""

_Note = Mapping[str, Any]


def readable_notes(notes: Sequence[_Note], blogs: Collection[int]) -> list[dict[str, Any]]:
    """Return notes as members of these blogs may read them.

    A matched post of any other blog becomes ``hidden``; a near miss is left out.
    """
    unplaced = {number for note in notes for data in _compared(note) if (number := _unplaced(data)) is not None}
    blogs_by_post = blogs_of_posts(unplaced) if unplaced else {}
    return [_readable(note, blogs, blogs_by_post) for note in notes]


def _compared(note: _Note) -> Iterable[_Note]:
    """Yield the parts of a note that name a compared post."""
    if note["stage"] == "match":
        data = note["data"]
        scope = {"against": data.get("against")}
        parts = (data, data.get("nearest"))
        yield from [{**scope, **part} for part in parts if isinstance(part, Mapping) and "ref" in part]


def _unplaced(data: _Note) -> int | None:
    """Return the number of a post whose blog is not recorded and may be another one.

    None for none.
    """
    ref = str(data["ref"])
    if "blog" in data or data["against"] != "everything" or not ref.startswith("post:"):
        return None
    return int(ref.removeprefix("post:"))


def _readable(note: _Note, blogs: Collection[int], blogs_by_post: Mapping[int, int]) -> dict[str, Any]:
    hidden = any(not _may_see(data, blogs, blogs_by_post) for data in _compared(note))
    if not hidden:
        return dict(note)
    data = note["data"]
    if "nearest" in data:
        return {**note, "data": {name: value for name, value in data.items() if name != "nearest"}}
    return {**note, "data": {name: data[name] for name in _KEPT if name in data} | {"hidden": True}}


def _may_see(data: _Note, blogs: Collection[int], blogs_by_post: Mapping[int, int]) -> bool:
    number = _unplaced(data)
    if number is not None:
        return blogs_by_post.get(number) in blogs
    return "blog" not in data or data["blog"] in blogs
