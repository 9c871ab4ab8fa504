"""Making blogs, and the categories, tags and bylines that posts ask for."""

import csv
import hashlib
import re
from collections.abc import Collection, Iterator, Mapping, Sequence
from datetime import datetime
from typing import TypeVar
from urllib.parse import urlsplit

from babel import Locale, UnknownLocaleError
from django.db import IntegrityError, connection, transaction
from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.editions import languages_of
from glyptarch_core.errors import Fault
from glyptarch_core.text import CommonShingles, Term, name_key, slugify, title_key, unused

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.keeping import Keeping
from glyptarch_server.blogs.models import (
    Blog,
    Byline,
    Category,
    CommonText,
    FormerName,
    Membership,
    Role,
    Tag,
    TermTable,
    WordList,
)
from glyptarch_server.blogs.queries import owns_a_blog, removed_blogs_of, zone_named
from glyptarch_server.common.hosts import checked_hosts
from glyptarch_server.common.problems import Conflict, Forbidden, Invalid, NotFound
from glyptarch_server.common.versions import lock_version

__all__ = [
    "add_member",
    "add_term_table",
    "add_word_list",
    "bring_back_blog",
    "bylines_named",
    "categories_named",
    "change_appearance",
    "change_blog",
    "change_term_table",
    "change_word_list",
    "clean_words",
    "create_blog",
    "grow_branches",
    "keep_common_text",
    "make_blog",
    "remove_blog",
    "remove_term_table",
    "remove_word_list",
    "save_keeping",
    "set_defaults",
    "set_time_zone",
    "table_rows",
    "tags_named",
    "take_turn",
]

_N = TypeVar("_N", Category, Tag, Byline)


def create_blog(*, slug: str, title: str, tagline: str, language: str, now: datetime, time_zone: str = "UTC") -> Blog:
    """Make a blog."""
    return Blog.objects.create(
        slug=slug, title=title, tagline=tagline, language=language, time_zone=time_zone, created_at=now
    )


_SLUG = re.compile(r"[a-z0-9]+(?:-[a-z0-9]+)*\Z")


def _checked_slug(slug: str) -> str:
    if not _SLUG.match(slug):
        message = "An address has small letters, digits and single hyphens between them: night-sky."
        raise Invalid(message, faults=[Fault(path="slug", message=message)])
    return slug


def _checked_language(language: str) -> str:
    try:
        return str(Locale.parse(language, sep="-")).replace("_", "-")
    except (ValueError, UnknownLocaleError) as error:
        message = f"“{language}” is no language that is known. Write a tag such as en, de or pt-BR."
        raise Invalid(message, faults=[Fault(path="language", message=message)]) from error


def make_blog(
    *, slug: str, title: str, tagline: str, language: str, time_zone: str, owner: User, now: datetime
) -> Blog:
    """Make a blog for a person who owns one already.

    Raises Forbidden for others, Invalid for an address, language or time zone that does not hold,
    Conflict where the address is taken.
    """
    if not owns_a_blog(owner) and not owner.is_superuser:
        raise Forbidden("Only people who own a blog may make another one. Ask one of them.")
    try:
        with transaction.atomic():
            blog = create_blog(
                slug=_checked_slug(slug), title=title.strip(), tagline=tagline.strip(),
                language=_checked_language(language), time_zone=zone_named(time_zone).key, now=now,
            )  # fmt: skip
            add_member(blog, owner, Role.OWNER)
            record("blog.made", blog.title, blog=blog.pk)
    except IntegrityError as error:
        raise Conflict(f"The address “{slug}” is taken. Choose another one.") from error
    return blog


_SETTINGS = ["title", "tagline", "language", "player_hosts", "full_feeds", "hub"]


def change_blog(
    blog: Blog,
    *,
    title: str,
    tagline: str,
    language: str,
    player_hosts: Sequence[str],
    full_feeds: bool = False,
    hub: str = "",
    begun: int | None = None,
) -> None:
    """Change the settings of a blog. Its address stays, so that links to it work.

    Raises Invalid, and Conflict where somebody has changed them since.
    """
    before = {name: getattr(blog, name) for name in _SETTINGS}
    if languages_of(blog.languages).of_text(language) is not None:
        message = f"“{language}” is one of the blog's other languages. Take it out of Settings, Languages first."
        raise Invalid(message, faults=[Fault(path="language", message=message)])
    blog.title, blog.tagline, blog.language = title.strip(), tagline.strip(), _checked_language(language)
    blog.player_hosts, blog.full_feeds = checked_hosts(player_hosts, path="player_hosts"), full_feeds
    blog.hub = _checked_hub(hub)
    with transaction.atomic():
        lock_version(blog, begun, before["title"])
        blog.save(update_fields=[*_SETTINGS, "version"])
        after = {name: getattr(blog, name) for name in _SETTINGS}
        record("blog.changed", blog.title, blog=blog.pk, before=before, after=after)


def _checked_hub(hub: str) -> str:
    """Return the address of a hub. Raises Invalid."""
    hub = hub.strip()
    parts = urlsplit(hub)
    if hub and (parts.scheme not in {"http", "https"} or not parts.hostname or parts.fragment):
        message = f"“{hub}” is no address of a hub. It begins with https://."
        raise Invalid(message, faults=[Fault(path="hub", message=message)])
    return hub


def change_appearance(blog: Blog, look: Mapping[str, object], *, begun: int | None = None) -> None:
    """Change the look of a blog. Raises Conflict where somebody has changed its settings since."""
    before = blog.appearance
    with transaction.atomic():
        lock_version(blog, begun, blog.title)
        blog.appearance = dict(look)
        blog.save(update_fields=["appearance", "version"])
        record("blog.appearance_changed", blog.title, blog=blog.pk, before=before, after=blog.appearance)


def remove_blog(blog: Blog, *, now: datetime) -> None:
    """Remove a blog from the web and the desk. It can be restored for a month."""
    with transaction.atomic():
        blog.removed_at = now
        blog.save(update_fields=["removed_at"])
        record("blog.removed", blog.title, blog=blog.pk)


def bring_back_blog(user: User, slug: str) -> Blog:
    """Restore a removed blog. Raises NotFound where this person owned none of this address."""
    with transaction.atomic():
        blog = next((blog for blog in removed_blogs_of(user) if blog.slug == slug), None)
        if blog is None:
            raise NotFound(f"You have removed no blog named “{slug}”, or its month is over.")
        blog.removed_at = None
        blog.save(update_fields=["removed_at"])
        record("blog.brought_back", blog.title, blog=blog.pk)
    return blog


def set_time_zone(blog: Blog, name: str) -> None:
    """Set the time zone of a blog. Raises Invalid for a name that is not in the IANA database."""
    blog.time_zone = zone_named(name).key
    blog.save(update_fields=["time_zone"])


def keep_common_text(blog_id: int, common: CommonShingles, *, now: datetime) -> None:
    """Save the common passages of a blog."""
    CommonText.objects.update_or_create(blog_id=blog_id, defaults={"counts": common.packed(), "learned_at": now})


def add_member(blog: Blog, user: User, role: Role) -> None:
    """Set the role of a person on a blog."""
    Membership.objects.update_or_create(blog=blog, user=user, defaults={"role": role})


def _get_or_create(model: type[_N], blog: Blog, names: Collection[str]) -> dict[str, _N]:
    wanted = {name_key(name): name for name in names if name}
    rows = _existing(model, blog, wanted)
    missing = [name for key, name in wanted.items() if key not in rows]
    if missing:
        _make(model, blog, missing)
        rows = _existing(model, blog, wanted)
    return rows


def _existing(model: type[_N], blog: Blog, wanted: Collection[str]) -> dict[str, _N]:
    if not wanted:
        return {}
    rows = {row.key: row for row in model.objects.filter(blog=blog, key__in=list(wanted))}
    missing = [key for key in wanted if key not in rows]
    if missing:
        former = FormerName.objects.filter(blog=blog, kind=model.__name__.lower(), key__in=missing)
        targets = dict(former.values_list("key", "target"))
        of_today = model.objects.in_bulk(targets.values())
        rows |= {key: of_today[number] for key, number in targets.items() if number in of_today}
    return rows


def _make(model: type[_N], blog: Blog, names: Collection[str]) -> None:
    for name in names:
        base = slugify(name, longest=80) or hashlib.sha256(name.encode()).hexdigest()[:12]
        taken = set(model.objects.filter(blog=blog, slug__startswith=base).values_list("slug", flat=True))
        slug = unused(base, taken)
        model.objects.bulk_create([model(blog=blog, name=name, key=name_key(name), slug=slug)], ignore_conflicts=True)


_BLOG_LOCK = 1
"""The first key of the advisory locks of blogs; the second is the blog's number."""


def take_turn(blog_id: int) -> None:
    """Lock writing posts of a blog until the transaction ends."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(%s, %s)", [_BLOG_LOCK, blog_id])


def categories_named(blog: Blog, names: Collection[str]) -> dict[str, Category]:
    """Return categories by the ``name_key`` of their names.

    Missing ones are created.
    """
    return _get_or_create(Category, blog, names)


def grow_branches(blog: Blog, branches: Collection[tuple[str, ...]]) -> None:
    """Create the categories of branches that are missing, each under the one above it.

    What exists stays where people have put it. Call it under the blog's turn.
    """
    names = {name for branch in branches for name in branch}
    existing = _existing(Category, blog, {name_key(name): name for name in names})
    for branch in sorted(branches):
        above: Category | None = None
        for name in branch:
            key = name_key(name)
            if key not in existing:
                _make(Category, blog, [name])
                existing[key] = Category.objects.get(blog=blog, key=key)
                Category.objects.filter(pk=existing[key].pk).update(parent=above)
            above = existing[key]


def tags_named(blog: Blog, names: Collection[str]) -> dict[str, Tag]:
    """Return tags by the ``name_key`` of their names.

    Missing ones are created.
    """
    return _get_or_create(Tag, blog, names)


def bylines_named(blog: Blog, names: Collection[str]) -> dict[str, Byline]:
    """Return bylines by the ``name_key`` of their names.

    Missing ones are created.
    """
    return _get_or_create(Byline, blog, names)


def clean_words(words: Collection[str]) -> list[str]:
    """Return words without empty and repeated ones.

    Raises Invalid for one without letter or digit.
    """
    kept = list(dict.fromkeys(word.strip() for word in words if word.strip()))
    for word in kept:
        try:
            Term.parse(word)
        except ValueError as error:
            raise Invalid(f"{error}. Take it out, or write a word.") from error
    return kept


def _free_key(model: type[WordList | TermTable], blog: Blog, name: str) -> str:
    base = slugify(title_key(name), longest=50).encode("ascii", "ignore").decode().strip("-") or "list"
    return unused(base, set(model.objects.filter(blog=blog, key__startswith=base).values_list("key", flat=True)))


def add_word_list(blog: Blog, name: str, words: Collection[str], *, key: str = "", now: datetime) -> WordList:
    """Make a word list, under a free ``key`` or one made of its name."""
    kept = clean_words(words)
    with transaction.atomic():
        record("library.word_list_added", name, blog=blog.pk, after=kept[:200])
        return WordList.objects.create(
            blog=blog, key=key or _free_key(WordList, blog, name), name=name.strip(), words=kept, changed_at=now
        )


def change_word_list(
    row: WordList, name: str, words: Collection[str], *, begun: int | None = None, now: datetime
) -> WordList:
    """Change name and words of a list.

    Its key stays, since rules refer to it. Raises Conflict where somebody has changed it since.
    """
    before, former = row.words, row.name
    row.name, row.words, row.changed_at = name.strip(), clean_words(words), now
    with transaction.atomic():
        lock_version(row, begun, former)
        row.save(update_fields=["name", "words", "changed_at", "version"])
        record("library.word_list_changed", row.name, blog=row.blog_id, before=before[:200], after=row.words[:200])
    return row


def remove_word_list(row: WordList) -> None:
    """Remove a word list. The caller has seen to it that no rule names it."""
    row.delete()


_COLUMNS = 3


def _csv_lines(text: str) -> Iterator[list[str]]:
    lines = csv.reader(text.splitlines(), skipinitialspace=True)
    try:
        yield from lines
    except csv.Error as error:
        raise Invalid(f"Line {lines.line_num} cannot be read as CSV: {error}.") from error


_HEADERS = (
    frozenset({"what", "term", "word", "words", "from", "find"}),
    frozenset({"by", "replacement", "replace", "to", "with", ""}),
    frozenset({"link", "url", "address", "href", ""}),
)


def _is_header(line: Sequence[str]) -> bool:
    """Whether a line names its columns, as the first one of a spreadsheet does (RFC 4180, 2.3)."""
    return 1 < len(line) <= _COLUMNS and all(
        cell.casefold() in names for cell, names in zip(line, _HEADERS, strict=False)
    )


def table_rows(text: str) -> list[list[str]]:
    """Parse the lines of a table: term, replacement, link, as CSV (RFC 4180).

    The first line may name the columns. Raises Invalid with the line.
    """
    rows: list[list[str]] = []
    for number, cells in enumerate(_csv_lines(text), start=1):
        line = [cell.strip() for cell in cells]
        if not any(line) or (number == 1 and _is_header(line)):
            continue
        if len(line) > _COLUMNS:
            raise Invalid(f"Line {number} has {len(line)} columns; three are known: what, by, link. Quote commas.")
        what, by, link = (*line, "", "")[:_COLUMNS]
        try:
            Term.parse(what)
        except ValueError as error:
            raise Invalid(f"Line {number}: {error}. Write a word in the first column.") from error
        if link and not link.startswith(("http://", "https://")):
            raise Invalid(f"Line {number}: “{link}” is no address. It begins with http:// or https://.")
        if not by and not link:
            raise Invalid(f"Line {number}: say what replaces “{what}”, or where it leads.")
        rows.append([what[:300], by[:500], link[:2000]])
    return rows


def add_term_table(blog: Blog, name: str, text: str, *, key: str = "", now: datetime) -> TermTable:
    """Make a table of terms from lines of CSV, under a free ``key`` or one made of its name."""
    rows = table_rows(text)
    with transaction.atomic():
        record("library.term_table_added", name, blog=blog.pk, after=rows[:200])
        return TermTable.objects.create(
            blog=blog, key=key or _free_key(TermTable, blog, name), name=name.strip(), rows=rows, changed_at=now
        )


def change_term_table(row: TermTable, name: str, text: str, *, begun: int | None = None, now: datetime) -> TermTable:
    """Change name and lines of a table.

    Its key stays, since rules refer to it. Raises Conflict where somebody has changed it since.
    """
    before, former = row.rows, row.name
    row.name, row.rows, row.changed_at = name.strip(), table_rows(text), now
    with transaction.atomic():
        lock_version(row, begun, former)
        row.save(update_fields=["name", "rows", "changed_at", "version"])
        record("library.term_table_changed", row.name, blog=row.blog_id, before=before[:200], after=row.rows[:200])
    return row


def remove_term_table(row: TermTable) -> None:
    """Remove a table. The caller has seen to it that no rule names it."""
    row.delete()


def set_defaults(blog: Blog, document: CampaignDocument | None) -> None:
    """Set the rules of new campaigns, without sources.

    None restores the product's defaults.
    """
    blog.defaults = None
    if document is not None:
        bare = document.model_copy(update={"gather": document.gather.model_copy(update={"sources": (), "labels": ()})})
        blog.defaults = bare.model_dump(mode="json")
    blog.save(update_fields=["defaults"])


def save_keeping(blog: Blog, keeping: Keeping, *, begun: int | None) -> None:
    """Save for how long a blog keeps its records.

    Raises Conflict where somebody has changed the blog's settings since.
    """
    before, after = blog.keeping, keeping.model_dump(mode="json", exclude_none=True)
    with transaction.atomic():
        lock_version(blog, begun, blog.title)
        blog.keeping = after
        blog.save(update_fields=["keeping", "version"])
        record("keeping.changed", blog.title, blog=blog.pk, before=before, after=after)
