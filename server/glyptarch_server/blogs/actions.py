"""Making blogs, and the categories, tags and bylines that posts ask for."""

import hashlib
from collections.abc import Collection
from datetime import datetime
from typing import TypeVar

from django.db.models.functions import Lower
from glyptarch_core.text import Term, slugify, title_key, unused

from glyptarch_server.accounts.models import User
from glyptarch_server.blogs.models import Blog, Byline, Category, Membership, Role, Tag, WordList
from glyptarch_server.common.problems import Invalid

__all__ = [
    "add_member",
    "add_word_list",
    "bylines_named",
    "categories_named",
    "change_word_list",
    "create_blog",
    "remove_word_list",
    "tags_named",
]

_N = TypeVar("_N", Category, Tag, Byline)


def create_blog(*, slug: str, title: str, tagline: str, language: str, now: datetime) -> Blog:
    """Make a blog."""
    return Blog.objects.create(slug=slug, title=title, tagline=tagline, language=language, created_at=now)


def add_member(blog: Blog, user: User, role: Role) -> None:
    """Give a person a role on a blog, in place of any other."""
    Membership.objects.update_or_create(blog=blog, user=user, defaults={"role": role})


def _named(model: type[_N], blog: Blog, names: Collection[str]) -> dict[str, _N]:
    wanted = {name.lower(): name for name in names if name}
    rows = _known(model, blog, wanted)
    missing = [name for key, name in wanted.items() if key not in rows]
    if missing:
        _make(model, blog, missing)
        rows = _known(model, blog, wanted)
    return rows


def _known(model: type[_N], blog: Blog, wanted: Collection[str]) -> dict[str, _N]:
    if not wanted:
        return {}
    rows = model.objects.annotate(low=Lower("name")).filter(blog=blog, low__in=list(wanted))
    return {row.name.lower(): row for row in rows}


def _make(model: type[_N], blog: Blog, names: Collection[str]) -> None:
    for name in names:
        base = slugify(name, longest=80) or hashlib.sha256(name.encode()).hexdigest()[:12]
        taken = set(model.objects.filter(blog=blog, slug__startswith=base).values_list("slug", flat=True))
        slug = unused(base, taken)
        model.objects.bulk_create([model(blog=blog, name=name, slug=slug)], ignore_conflicts=True)


def categories_named(blog: Blog, names: Collection[str]) -> dict[str, Category]:
    """Give the categories by their names (folded to lower case), making those that do not exist."""
    return _named(Category, blog, names)


def tags_named(blog: Blog, names: Collection[str]) -> dict[str, Tag]:
    """Give the tags by their names (folded to lower case), making those that do not exist."""
    return _named(Tag, blog, names)


def bylines_named(blog: Blog, names: Collection[str]) -> dict[str, Byline]:
    """Give the bylines by their names (folded to lower case), making those that do not exist."""
    return _named(Byline, blog, names)


def _clean(words: Collection[str]) -> list[str]:
    """Give words without empty and repeated ones. Raises Invalid where one holds no letter or digit."""
    kept = list(dict.fromkeys(word.strip() for word in words if word.strip()))
    for word in kept:
        try:
            Term.parse(word)
        except ValueError as error:
            raise Invalid(f"{error}. Take it out, or write a word.") from error
    return kept


def add_word_list(blog: Blog, name: str, words: Collection[str], *, now: datetime) -> WordList:
    """Make a word list."""
    base = slugify(title_key(name), longest=50).encode("ascii", "ignore").decode().strip("-") or "list"
    taken = set(WordList.objects.filter(blog=blog, key__startswith=base).values_list("key", flat=True))
    return WordList.objects.create(
        blog=blog, key=unused(base, taken), name=name.strip(), words=_clean(words), changed_at=now
    )


def change_word_list(row: WordList, name: str, words: Collection[str], *, now: datetime) -> WordList:
    """Give a word list another name or other words; its key stays, since rules name it."""
    row.name, row.words, row.changed_at = name.strip(), _clean(words), now
    row.save(update_fields=["name", "words", "changed_at"])
    return row


def remove_word_list(row: WordList) -> None:
    """Remove a word list. The caller has seen to it that no rule names it."""
    row.delete()
