"""Editions move along with their original.

What is taken off in one language is taken off in all.
"""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any, NamedTuple

from django.db.models import QuerySet

from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Change, Post, PostChange

__all__ = ["editions_along", "for_writing", "moved"]

_AWAY = frozenset({PostState.BINNED, PostState.REFUSED})
_READERS = ("visibility", "pass_phrase")
_OUT = frozenset({PostState.PUBLISHED, PostState.SCHEDULED})

Values = Mapping[str, Any]


def for_writing(rows: QuerySet[Post]) -> list[Post]:
    """Return posts with their rows locked, and with what a change compares."""
    joined = rows.order_by("pk").select_for_update(of=("self",), no_key=True)
    joined = joined.select_related("blog", "category", "byline", "item", "source").defer("found_by")
    return list(joined.prefetch_related("categories", "tags"))


def moved(post: Post, to: PostState, *, now: datetime, date: datetime | None = None) -> dict[str, Any]:
    """Return the values of a post that moves to another state."""
    values: dict[str, Any] = {"state": to.value}
    if to is PostState.PUBLISHED:
        # A post published early is dated now, because no post on the blog has a future date.
        values |= {"out_at": now.isoformat(), "date": min(post.date, now).isoformat()}
    elif date is not None:
        values["date"] = date.isoformat()
    if post.state == PostState.BINNED.value:
        values |= {"binned_at": None, "marker": True}
    return values


class _Move(NamedTuple):
    """The move of an original."""

    was: PostState
    to: PostState
    wanted: Values
    date: datetime


def editions_along(
    change: Change, posts: Sequence[Post], wanted: Mapping[int, Values], *, now: datetime
) -> dict[Post, Values]:
    """Return the editions of posts that move along with them, locked, with their new values.

    What is binned or refused takes its editions off; what comes back brings those that went with it. What goes out
    brings those that go along. With ``alone`` in the change they stay where they are. Who may read a post is the same
    in each language, always. Call it under the blog's turn.
    """
    readers = {post.pk: given for post in posts if (given := _new_readers(post, wanted.get(post.pk, {})))}
    moves = {
        post.pk: _Move(PostState(post.state), PostState(values["state"]), values, post.date)
        for post in posts
        if (values := wanted.get(post.pk, {})).get("state", post.state) != post.state
    }
    if change.what.get("alone"):
        moves = {}
    if not (moves or readers):
        return {}
    rows = Post.objects.filter(edition_of__in=[*moves, *readers]).exclude(pk__in=[post.pk for post in posts])
    editions = for_writing(rows.exclude(state=PostState.GONE.value))
    came_with = _came_with(editions, moves)
    along: dict[Post, Values] = {}
    for edition in editions:
        original = edition.edition_of_id or 0
        move = moves.get(original)
        moved_values = _of_move(edition, move, came_with.get(edition.pk), now) if move else None
        values_along = {**readers.get(original, {}), **(moved_values or {})}
        if values_along:
            along[edition] = values_along
    return along


def _new_readers(post: Post, values: Values) -> dict[str, Any]:
    """Return who may read a post from now on. Nothing where it stays the same."""
    given = {name: values.get(name, getattr(post, name)) for name in _READERS}
    return given if any(getattr(post, name) != value for name, value in given.items()) else {}


def _of_move(edition: Post, move: _Move, came_from: PostState | None, now: datetime) -> Values | None:
    return _back(came_from, move) if move.was in _AWAY else _moved_along(edition, move, now)


def _moved_along(edition: Post, move: _Move, now: datetime) -> Values | None:
    state = PostState(edition.state)
    if move.to in _AWAY:
        gone = {
            "state": PostState.BINNED.value,
            "binned_at": now.isoformat(),
            "marker": move.wanted.get("marker", True),
        }
        return None if state in _AWAY else gone
    if move.to not in _OUT:
        return {"state": move.to.value} if state in _OUT else None
    if not edition.goes_along or state in _AWAY or state is move.to:
        return None
    if move.to is PostState.PUBLISHED:
        return moved(edition, move.to, now=now)
    return {"state": move.to.value, "date": move.wanted.get("date") or move.date.isoformat()}


def _came_with(editions: Sequence[Post], moves: Mapping[int, _Move]) -> dict[int, PostState]:
    """Return the former states of editions that went into the bin with their original."""
    binned = [edition for edition in editions if edition.state == PostState.BINNED.value]
    originals = [number for number, move in moves.items() if move.was in _AWAY]
    if not binned or not originals:
        return {}
    taken_off = _last_changes(originals, [state.value for state in _AWAY])
    went = _last_changes([edition.pk for edition in binned], [PostState.BINNED.value])
    return {
        edition.pk: PostState(went[edition.pk][1])
        for edition in binned
        if edition.pk in went
        and edition.edition_of_id in taken_off
        and went[edition.pk][0] == taken_off[edition.edition_of_id][0]
    }


def _last_changes(posts: Sequence[int], states: Sequence[str]) -> dict[int, tuple[int, str]]:
    """Return the last change of each post into some states, and the state before."""
    rows = PostChange.objects.filter(post__in=posts, after__state__in=states).order_by("post", "-version")
    values = rows.distinct("post").values_list("post", "change", "before__state")
    return {post: (change, before) for post, change, before in values}


def _back(state: PostState | None, move: _Move) -> Values | None:
    """Return how an edition comes back: as it was, but not further out than its original."""
    if state is None:
        return None
    to = move.to if state in _OUT else state
    return {"state": to.value, "binned_at": None, "marker": True}
