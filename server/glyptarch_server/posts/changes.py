"""Changes of posts by people, one or many.

Large ones are carried out as a task, and each can be taken back.
"""

import logging
from collections.abc import Callable, Collection, Mapping, Sequence
from datetime import datetime
from enum import StrEnum
from typing import Any, TypeAlias

from django.db import transaction
from glyptarch_core.text import name_key

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.keeping import Record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import keeping_of
from glyptarch_server.blogs.roles import Role
from glyptarch_server.common.acting import acting_person
from glyptarch_server.common.problems import Conflict
from glyptarch_server.posts.changing import locked, values_of, write_values
from glyptarch_server.posts.following import moved
from glyptarch_server.posts.lifecycle import ChangeState, PostState, may_move
from glyptarch_server.posts.models import Change, Post, PostChange
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.lifecycle import TaskState
from glyptarch_server.tasks.models import Task

__all__ = [
    "Action",
    "begin_change",
    "carry_on",
    "carry_out",
    "change_now",
    "end_change",
    "end_with_task",
    "new_change",
    "provide",
    "take_back",
]

_log = logging.getLogger("glyptarch.posts")
AT_ONCE = 100
_AT_A_TIME = 100


class Action(StrEnum):
    """The kinds of changes. ``Change.what`` has the values of each."""

    MOVE = "moved"
    """``to``, ``date`` for scheduling, ``seen``: the state in which a post is moved."""
    EDIT = "edited"
    """``values``."""
    WRITE = "written"
    LET_THROUGH = "let_through"
    """Posts of items that the rules had stopped."""
    CATEGORY = "category"
    """``category``."""
    TAGS = "tags"
    """``add`` and ``remove``."""
    BYLINE = "byline"
    """``byline``."""
    BIN = "binned"
    """``marker``, and ``spare`` for those that people have edited or commented."""
    RESTORE = "restored"
    EDITION = "edition"
    """An edition that was made again from its changed original."""
    REPLAY = "replayed"
    CORRECT = "corrected"
    """``run``: what its source has corrected."""
    TAKE_BACK = "taken_back"


Provider: TypeAlias = Callable[[Change, Sequence[Post], datetime], Mapping[int, Mapping[str, Any]]]
_PROVIDED: dict[Action, Provider] = {}


def provide(action: Action, values: Provider) -> None:
    """Register the function that computes the wanted values of an action, for use by other apps."""
    _PROVIDED[action] = values


def new_change(
    blog: Blog,
    action: Action,
    what: Mapping[str, Any],
    posts: Collection[int],
    *,
    subject: str = "",
    now: datetime,
    takes_back: Change | None = None,
) -> Change:
    """Create a change by the acting person that is still to be carried out."""
    person = acting_person()
    return Change.objects.create(
        blog=blog,
        action=action.value,
        what=dict(what),
        subject=subject[:300],
        state=ChangeState.WAITING.value,
        posts=sorted(posts),
        takes_back=takes_back,
        by_id=person.pk if person else None,
        name=(person.get_full_name() or person.get_username())[:200] if person else "",
        at=now,
    )


def begin_change(
    blog: Blog,
    action: Action,
    what: Mapping[str, Any],
    posts: Collection[int],
    *,
    subject: str = "",
    now: datetime,
    lock: str = "",
    role: Role | None = Role.EDITOR,
) -> Change:
    """Change posts: directly where they are few, else by a task begun with the change.

    ``role`` is what the acting person must still be while the task goes on; None where it must end in any case.
    """
    with transaction.atomic():
        change = new_change(blog, action, what, posts, subject=subject, now=now)
        record(f"posts.{action.value}", subject, blog=blog.pk, after={"posts": len(change.posts), **_audited(what)})
        _go(change, now=now, lock=lock, role=role)
    return change


def _audited(what: Mapping[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in what.items() if name != "values"}


def _go(change: Change, *, now: datetime, lock: str = "", role: Role | None = Role.EDITOR) -> None:
    if len(change.posts) <= AT_ONCE:
        while carry_on_once(change, now=now):
            pass
        return
    change.task = begin_task(
        "change",
        change.pk,
        blog_id=change.blog_id,
        subject=change.subject,
        now=now,
        path="posts",
        lock=lock,
        total=len(change.posts),
        by_id=change.by_id if role else None,
        role=role or Role.EDITOR,
    )
    change.save(update_fields=["task"])


def change_now(
    blog: Blog,
    action: Action,
    post: int,
    wanted: Mapping[str, Any],
    *,
    subject: str,
    what: Mapping[str, Any],
    now: datetime,
) -> Post:
    """Write values of one post, as a change of its own. Must run inside a transaction.

    Raises Conflict where another post has taken its place.
    """
    change = new_change(blog, action, what, [post], subject=subject, now=now)
    (row,) = locked(blog.pk, [post])
    changed = write_values(change, [row], {post: wanted}, now=now)
    change.done, change.changed, change.state, change.ended_at = 1, len(changed), ChangeState.DONE.value, now
    change.save(update_fields=["done", "changed", "state", "ended_at"])
    if not changed and any(values_of(row)[name] != value for name, value in wanted.items()):
        raise Conflict(
            f"Another post has been made of the same item meanwhile: “{row.title}” cannot come back beside it."
        )
    return row


def carry_out(task: Task, carrier: Carrier) -> None:
    """Carry out the change of a task. Safe to repeat after a crash."""
    carry_on(Change.objects.select_related("blog").get(pk=task.ref), carrier)


def carry_on(change: Change, carrier: Carrier) -> None:
    """Carry a change out to its end, a hundred posts per transaction."""
    while carry_on_once(change, now=carrier.now(), check=carrier.check):
        carrier.report(change.done, len(change.posts))


def end_with_task(task: Task, state: TaskState, at: datetime) -> None:
    """End the change that a task carried out."""
    end_change(task.ref, state, at)


def end_change(number: int, state: TaskState, at: datetime) -> None:
    """End a change, unless it has ended itself."""
    Change.objects.filter(pk=number, ended_at=None).update(state=state.value, ended_at=at)


def _no_check() -> None:
    """Ask nothing: the change is carried out with the request that wants it."""


def carry_on_once(change: Change, *, now: datetime, check: Callable[[], None] = _no_check) -> bool:
    """Change the next hundred posts in one transaction and return whether more are left.

    ``check`` raises where the change must not go on, and is asked under the blog's turn.
    """
    with transaction.atomic():
        row = Change.objects.select_for_update(of=("self",)).select_related("blog", "takes_back").get(pk=change.pk)
        if row.ended_at is not None:
            return False
        numbers = row.posts[row.done : row.done + _AT_A_TIME]
        if numbers:
            posts = locked(row.blog_id, numbers)
            check()
            row.changed += len(write_values(row, posts, _wanted(row, posts, now=now), now=now))
            row.done += len(numbers)
            row.state = ChangeState.RUNNING.value
        if row.done >= len(row.posts):
            row.state, row.ended_at = ChangeState.DONE.value, now
        row.save(update_fields=["state", "ended_at", "done", "changed"])
    change.state, change.done, change.changed, change.ended_at = row.state, row.done, row.changed, row.ended_at
    return row.ended_at is None


def _wanted(change: Change, posts: Sequence[Post], *, now: datetime) -> dict[int, Mapping[str, Any]]:
    """Return the values that a change wants of each post.

    Posts it does not concern are left out.
    """
    what, action = change.what, Action(change.action)
    if action is Action.TAKE_BACK:
        return dict(_before(change, posts))
    if action in _PROVIDED:
        return dict(_PROVIDED[action](change, posts, now))
    if action is Action.RESTORE:
        return dict(_restored(posts, now=now))
    if action is Action.BIN and what.get("spare"):
        commented = _commented(posts)
        posts = [post for post in posts if not post.edited and post.pk not in commented]
    return {post.pk: values for post in posts if (values := _wanted_of(post, action, what, now=now))}


def _commented(posts: Sequence[Post]) -> set[int]:
    rows = Post.objects.filter(pk__in=[post.pk for post in posts], readers_comments__isnull=False)
    return set(rows.values_list("pk", flat=True))


def _wanted_of(post: Post, action: Action, what: Mapping[str, Any], *, now: datetime) -> dict[str, Any] | None:
    makers = {
        Action.MOVE: _moved_to,
        Action.BIN: _binned,
        Action.CATEGORY: _filed,
        Action.TAGS: _tagged,
        Action.BYLINE: _signed,
    }
    return makers[action](post, what, now)


def _moved_to(post: Post, what: Mapping[str, Any], now: datetime) -> dict[str, Any] | None:
    state, to = PostState(post.state), PostState(what["to"])
    if state is PostState.BINNED or not may_move(state, to) or what.get("seen") not in {None, state.value}:
        return None
    date = datetime.fromisoformat(what["date"]) if what.get("date") else None
    return moved(post, to, now=now, date=date)


def _binned(post: Post, what: Mapping[str, Any], now: datetime) -> dict[str, Any] | None:
    if post.state in {PostState.BINNED.value, PostState.GONE.value}:
        return None
    marker = bool(what.get("marker", True)) or post.item_id is None
    return {"state": PostState.BINNED.value, "binned_at": now.isoformat(), "marker": marker}


def _filed(post: Post, what: Mapping[str, Any], _now: datetime) -> dict[str, Any] | None:
    into = what["category"]
    others = [name for name in values_of(post)["categories"][1:] if name_key(name) != name_key(into)]
    return _edited(post, {"categories": [into, *others]})


def _tagged(post: Post, what: Mapping[str, Any], _now: datetime) -> dict[str, Any] | None:
    taken = {name_key(name) for name in what.get("remove", [])}
    tags = {name_key(row.name): row.name for row in post.tags.all() if name_key(row.name) not in taken}
    tags |= {name_key(name): tags.get(name_key(name), name) for name in what.get("add", [])}
    return _edited(post, {"tags": sorted(tags.values())})


def _signed(post: Post, what: Mapping[str, Any], _now: datetime) -> dict[str, Any] | None:
    return _edited(post, {"byline": what["byline"]})


def _edited(post: Post, values: Mapping[str, Any]) -> dict[str, Any] | None:
    """Return values with the note that a person changed them.

    None where nothing differs.
    """
    current = values_of(post)
    differing = {name: value for name, value in values.items() if current[name] != value}
    if not differing or post.state == PostState.GONE.value:
        return None
    return {**differing, "edited": sorted({*post.edited, *differing})}


def _restored(posts: Sequence[Post], *, now: datetime) -> dict[int, dict[str, Any]]:
    """Return for each post in the bin the state that it had before."""
    binned = [post for post in posts if post.state == PostState.BINNED.value]
    last = PostChange.objects.filter(post__in=binned, after__state=PostState.BINNED.value).order_by("post", "-version")
    before = dict(last.distinct("post").values_list("post", "before__state"))
    values = {}
    for post in binned:
        to = PostState(before.get(post.pk) or PostState.HELD.value)
        # A published post returns as it was; one whose date has passed meanwhile is held.
        to = PostState.HELD if to is PostState.SCHEDULED and post.date <= now else to
        values[post.pk] = {"state": to.value, "binned_at": None, "marker": True}
    return values


def _before(change: Change, posts: Sequence[Post]) -> dict[int, dict[str, Any]]:
    """Return the values that posts had before a change, where nobody has changed these since."""
    present_values = {post.pk: values_of(post) for post in posts}
    records = PostChange.objects.filter(change=change.takes_back, post__in=list(present_values))
    return {
        record.post_id: {
            name: value
            for name, value in record.before.items()
            if present_values[record.post_id][name] == record.after[name]
        }
        for record in records
    }


def take_back(change: Change, *, now: datetime, role: Role = Role.EDITOR) -> Change:
    """Undo a change. Values changed again since stay as they are.

    Raises Conflict where the change is under way, or was taken back already.
    """
    with transaction.atomic():
        row = Change.objects.select_for_update(of=("self",)).select_related("blog").get(pk=change.pk)
        if row.ended_at is None:
            raise Conflict("This change is still under way. Stop it first.")
        if Change.objects.filter(takes_back=row).exists():
            raise Conflict("This change was taken back already.")
        if row.action == Action.WRITE.value:
            raise Conflict("A post that was written by hand is put into the bin instead.")
        numbers = list(PostChange.objects.filter(change=row).values_list("post", flat=True))
        if PostChange.objects.filter(change=row, before={}, after={}).exists():
            days = keeping_of(row.blog).days(Record.CHANGES)
            raise Conflict(f"It was done more than {days} days ago. What the posts were before is not kept that long.")
        undoing = new_change(row.blog, Action.TAKE_BACK, {}, numbers, subject=row.subject, now=now, takes_back=row)
        record("posts.taken_back", row.subject, blog=row.blog_id, before=row.action, after={"posts": len(numbers)})
        _go(undoing, now=now, role=role)
    return undoing
