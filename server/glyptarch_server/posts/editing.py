"""Editing a post by hand, writing one, and its history."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db import transaction
from glyptarch_core.draft import FieldType, Visibility
from glyptarch_core.errors import Fault
from glyptarch_core.text import clean_line, clean_text, count_words, name_key, plain_text, sanitise, slugify, unused

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.actions import take_turn
from glyptarch_server.blogs.keeping import Record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import keeping_of
from glyptarch_server.common.problems import Conflict, Invalid, NotFound
from glyptarch_server.posts.changes import Action, change_now, new_change
from glyptarch_server.posts.changing import EDITABLE, locked, values_of
from glyptarch_server.posts.lifecycle import ChangeState, PostState
from glyptarch_server.posts.models import Post, PostChange
from glyptarch_server.posts.queries import slugs_in_use

__all__ = ["HistoryEntry", "edit_post", "history_of", "restore_version", "values_at", "write_post"]

_LONGEST = {"title": 300, "description": 500, "lead_alt": 300, "byline": 80}
_MOST_NAMES = 50


@dataclass(frozen=True, slots=True, kw_only=True)
class HistoryEntry:
    """One change of a post.

    ``by`` is empty for a job of the server.
    """

    version: int
    action: str
    by: str
    at: datetime
    before: Mapping[str, Any]
    after: Mapping[str, Any]
    kept: bool
    why: str


def _cleaned(edits: Mapping[str, Any], *, now: datetime, published: bool) -> dict[str, Any]:
    """Return values as stored: clean texts, sanitised HTML. Raises Invalid with every fault."""
    values = {name: edits[name] for name in EDITABLE if name in edits}
    faults: list[Fault] = []
    _clean_texts(values, faults)
    _clean_names(values)
    _clean_addresses(values, faults)
    _clean_fields(values, faults)
    if "visibility" in values:
        _check_phrase(values, faults)
    if "date" in values:
        if published and values["date"] > now:
            message = "A post that is out cannot have a date ahead. Take it off the blog and schedule it instead"
            faults.append(Fault(path="date", message=message))
        values["date"] = values["date"].isoformat()
    if faults:
        raise Invalid("The post cannot be saved. Correct the marked fields.", faults=faults)
    return values


def _clean_texts(values: dict[str, Any], faults: list[Fault]) -> None:
    for name, longest in _LONGEST.items():
        if name in values:
            values[name] = clean_line(values[name], longest)
    if not values.get("title", "a title"):
        faults.append(Fault(path="title", message="A post needs a title"))
    if "excerpt" in values:
        values["excerpt"] = clean_text(values["excerpt"]).strip()
    if "body" in values:
        values["body"] = sanitise(clean_text(values["body"]))


def _clean_names(values: dict[str, Any]) -> None:
    for name in ("categories", "tags"):
        if name in values:
            names = {name_key(clean): clean for value in values[name] if (clean := clean_line(value, 80))}
            values[name] = list(names.values())[:_MOST_NAMES]
    if "tags" in values:
        values["tags"] = sorted(values["tags"])
    if "categories" in values:
        values["categories"] = [*values["categories"][:1], *sorted(values["categories"][1:])]


def _clean_addresses(values: dict[str, Any], faults: list[Fault]) -> None:
    if "slug" in values:
        values["slug"] = slugify(values["slug"])
        if not values["slug"]:
            faults.append(Fault(path="slug", message="An address needs a letter or digit"))
    for name in ("lead_url", "canonical"):
        address = values.get(name, "")
        if address and not address.startswith(("http://", "https://", "/media/")):
            faults.append(Fault(path=name, message="An address begins with https:// or http://"))


def _clean_fields(values: dict[str, Any], faults: list[Fault]) -> None:
    addresses = {FieldType.LINK.value, FieldType.PICTURE.value}
    for place, field in enumerate(values.get("fields", ())):
        if isinstance(field["value"], str):
            clean = clean_text(field["value"])
            field["value"] = sanitise(clean) if field["type"] == FieldType.RICH_TEXT.value else clean
            if field["type"] in addresses and not clean.startswith(("http://", "https://")):
                faults.append(Fault(path=f"fields.{place}", message="An address begins with https:// or http://"))


def _check_phrase(values: dict[str, Any], faults: list[Fault]) -> None:
    if values["visibility"] != Visibility.PHRASE.value:
        values["pass_phrase"] = ""
    elif not values.get("pass_phrase", "").strip():
        faults.append(Fault(path="pass_phrase", message="Readers are to give a pass phrase: say which"))


def edit_post(post: Post, edits: Mapping[str, Any], *, version: int, now: datetime) -> Post:
    """Change the values in ``edits``. ``version`` is the one that the person began from.

    Raises Conflict where somebody has changed the post since, Invalid for bad values.
    """
    with transaction.atomic():
        (row,) = locked(post.blog_id, [post.pk])
        if row.version != version:
            raise Conflict(_changed_meanwhile(row, version))
        if row.state in {PostState.BINNED.value, PostState.GONE.value}:
            raise Conflict(f"“{row.title}” is in the bin. Restore it first.")
        values = _cleaned(edits, now=now, published=row.state == PostState.PUBLISHED.value)
        current = values_of(row)
        differing = {name: value for name, value in values.items() if current[name] != value}
        if "slug" in differing and not _may_stand_at(row, differing["slug"]):
            fault = Fault(path="slug", message="Another post has this address, or had it")
            raise Invalid("The post cannot be saved. Correct the marked fields.", faults=[fault])
        if not differing:
            return row
        wanted = {**differing, "edited": sorted({*row.edited, *differing})}
        edited = change_now(row.blog, Action.EDIT, row.pk, wanted, subject=row.title, what={}, now=now)
        record("post.edited", edited.title, blog=row.blog_id, after=sorted(differing))
    return edited


def _may_stand_at(row: Post, slug: str) -> bool:
    """Whether an address is free, or was the post's own."""
    own = row.former_addresses.filter(slug=slug).exists()
    return own or not slugs_in_use(row.blog, [slug])


def _changed_meanwhile(row: Post, version: int) -> str:
    since = PostChange.objects.filter(post=row, version__gt=version).select_related("change").order_by("-version")
    last = since.first()
    who = last.change.name if last is not None and last.change.name else "Somebody"
    parts = sorted({name for change in since for name in change.after} & {*EDITABLE, "state"})
    named = ", ".join(name.replace("_", " ") for name in parts) or "it"
    return f"{who} has changed “{row.title}” meanwhile ({named}). Nothing of yours was saved, and nothing is lost here."


def write_post(blog: Blog, edits: Mapping[str, Any], *, now: datetime) -> Post:
    """Create a post by hand, as a draft. Raises Invalid for bad values."""
    values = _cleaned(edits, now=now, published=False)
    with transaction.atomic():
        take_turn(blog.pk)
        base = values.get("slug") or slugify(values["title"]) or "post"
        near = {base, *(f"{base}-{number}" for number in range(2, 200))}
        post = Post.objects.create(
            blog=blog,
            state=PostState.DRAFT.value,
            title=values["title"],
            slug=unused(base, slugs_in_use(blog, near)),
            body=values.get("body", ""),
            words=count_words(plain_text(values.get("body", ""))),
            language=blog.language,
            date=now,
            created_at=now,
            changed_at=now,
            edited=sorted(set(values) - {"slug"}),
        )
        change = new_change(blog, Action.WRITE, {}, [post.pk], subject=post.title, now=now)
        change.state, change.ended_at, change.done, change.changed = ChangeState.DONE.value, now, 1, 1
        change.save(update_fields=["state", "ended_at", "done", "changed"])
        rest = {name: value for name, value in values.items() if name != "slug"}
        post = change_now(blog, Action.EDIT, post.pk, rest, subject=post.title, what={}, now=now)
        record("post.written", post.title, blog=blog.pk)
    return post


def history_of(post: Post) -> list[HistoryEntry]:
    """Return the latest two hundred changes of a post, latest first."""
    rows = PostChange.objects.filter(post=post).select_related("change").order_by("-version")[:200]
    return [
        HistoryEntry(
            version=row.version,
            action=row.change.action,
            by=row.change.name,
            at=row.change.at,
            before=row.before,
            after=row.after,
            kept=not row.is_forgotten,
            why=str(row.change.what.get("why", "")),
        )
        for row in rows
    ]


def values_at(post: Post, version: int) -> dict[str, Any]:
    """Return the values that a post had at a version.

    Raises NotFound where they are unknown or thinned.
    """
    if not 1 <= version <= post.version:
        raise NotFound(f"“{post.title}” has no version {version}.")
    values = values_of(post)
    for row in PostChange.objects.filter(post=post, version__gt=version).order_by("-version"):
        if row.is_forgotten:
            days = keeping_of(post.blog).days(Record.CHANGES)
            raise NotFound(f"What “{post.title}” was at version {version} was kept for {days} days, and is gone.")
        values |= row.before
    return values


def restore_version(post: Post, version: int, *, seen: int, now: datetime) -> Post:
    """Restore texts, names and addresses of a version.

    The state stays. Raises Conflict.
    """
    with transaction.atomic():
        (row,) = locked(post.blog_id, [post.pk])
        if row.version != seen:
            raise Conflict(_changed_meanwhile(row, seen))
        old = values_at(row, version)
        wanted = {name: old[name] for name in (*EDITABLE, "edited")}
        if row.state == PostState.PUBLISHED.value and datetime.fromisoformat(wanted["date"]) > now:
            wanted["date"] = row.date.isoformat()
        what = {"version": version}
        restored = change_now(row.blog, Action.EDIT, row.pk, wanted, subject=row.title, what=what, now=now)
        record("post.version_restored", row.title, blog=row.blog_id, after=version)
    return restored
