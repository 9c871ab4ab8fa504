"""Reads about blogs, and the one check of rights."""

from collections.abc import Collection, Mapping, Sequence
from datetime import datetime
from zoneinfo import ZoneInfo, available_timezones

from django.contrib.auth.base_user import AbstractBaseUser
from django.contrib.auth.models import AnonymousUser
from django.db.models import Count, Q, QuerySet
from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.place import BylineFrom
from glyptarch_core.ports import BlogContext, Renamed, TableRow
from glyptarch_core.text import NOTHING_COMMON, CommonShingles

from glyptarch_server.blogs.keeping import Keeping, Record, usual_days
from glyptarch_server.blogs.models import (
    Blog,
    Byline,
    Category,
    CommonText,
    FormerName,
    Membership,
    NameKind,
    Role,
    Tag,
    TermTable,
    WordList,
)
from glyptarch_server.common.problems import Forbidden, Invalid, NotFound

__all__ = [
    "Role",
    "blog_context_of",
    "blog_for",
    "blog_numbers_of",
    "blogs_of",
    "blogs_within_reach",
    "bylines_of",
    "categories_of",
    "is_member",
    "keeping_of",
    "kept_for",
    "owns_a_blog",
    "public_blog",
    "public_blogs",
    "removed_blogs_of",
    "require_membership",
    "role_of",
    "tables_by_key",
    "tags_of",
    "term_table_of",
    "term_tables_of",
    "word_list_of",
    "word_lists_of",
    "words_by_key",
    "zone_named",
]

Person = AbstractBaseUser | AnonymousUser


_WHO_MAY = {
    Role.REVIEWER: "Only reviewers, editors and owners of the blog may do this.",
    Role.EDITOR: "Only editors and owners of the blog may do this.",
    Role.OWNER: "Only an owner of the blog may do this.",
}


_ASKED = "memberships_asked_for"


def require_membership(user: Person, slug: str) -> Membership:
    """Return the membership of a person on a blog, also on a removed one.

    Raises NotFound without one. It is cached on the person for the length of the request.
    """
    rows = Membership.objects.select_related("blog").filter(user=user.pk or 0)
    membership = rows.filter(blog__slug=slug).first()
    if membership is None:
        raise NotFound(f"You have no blog named “{slug}”.")
    setattr(user, _ASKED, {slug: membership})
    return membership


def blog_for(user: Person, slug: str, role: Role = Role.VIEWER) -> Blog:
    """Return the blog if this person has at least this role on it.

    Raises NotFound where the person is no member, so that strangers cannot tell that the blog exists, and Forbidden
    where the role is not enough: the person's, or that of the token that acts for the person.
    """
    membership = getattr(user, _ASKED, {}).get(slug) or require_membership(user, slug)
    if membership.blog.removed_at is not None:
        raise NotFound(f"You have no blog named “{slug}”.")
    if Role(membership.role).rank < role.rank:
        raise Forbidden(f"{_WHO_MAY[role]} Ask an owner to do it, or to give you the role.")
    token_role = getattr(user, "token_role", "")
    if token_role and Role(token_role).rank < role.rank:
        raise Forbidden(f"The token may act as {Role(token_role).label.lower()} at most. Make one that may do more.")
    return membership.blog


def role_of(user: Person, blog: Blog) -> Role | None:
    """Return the role of a person on a blog.

    None for strangers.
    """
    role = Membership.objects.filter(user=user.pk or 0, blog=blog).values_list("role", flat=True).first()
    return Role(role) if role else None


def blogs_of(user: Person) -> Sequence[Membership]:
    """Return the memberships of a person, ordered by title of the blog."""
    rows = Membership.objects.select_related("blog").filter(user=user.pk or 0, blog__removed_at=None)
    return list(rows.order_by("blog__title", "pk")[:200])


def removed_blogs_of(user: Person) -> Sequence[Blog]:
    """Return the removed blogs that a person owned and can still restore, latest removed first."""
    rows = Blog.objects.filter(removed_at__isnull=False, members__user=user.pk or 0, members__role=Role.OWNER)
    return list(rows.order_by("-removed_at", "pk")[:200])


def owns_a_blog(user: Person) -> bool:
    """Whether a person owns any blog and may therefore create others."""
    return Membership.objects.filter(user=user.pk or 0, role=Role.OWNER).exists()


def blogs_within_reach(blog: Blog) -> list[int]:
    """Return the numbers of the blogs that Match may compare with, this one first.

    Every editor and owner of this blog must have a role on the other blog. They write the rules, choose the sources and
    run them, so anything they could find out that way each of them may read there anyway. A reader of the trace without
    a role on the other blog learns nothing about its posts (``runs/visibility.py``).
    """
    rows = Membership.objects.filter(blog=blog, role__in=[Role.EDITOR, Role.OWNER])
    writers = set(rows.values_list("user", flat=True))
    shared = (
        Membership.objects.filter(user__in=writers)
        .exclude(blog=blog)
        .filter(blog__removed_at=None)
        .values("blog")
        .annotate(number=Count("user"))
        .filter(number=len(writers))
    )
    return [blog.pk, *shared.order_by("blog").values_list("blog", flat=True)]


def zone_named(name: str) -> ZoneInfo:
    """Return a time zone of the IANA database. Raises Invalid where there is none of this name."""
    if name not in available_timezones():
        raise Invalid(f"There is no time zone named “{name}”. Choose one such as Europe/Berlin.")
    return ZoneInfo(name)


def blog_numbers_of(user: Person) -> frozenset[int]:
    """Return the numbers of the blogs on which a person has a role."""
    rows = Membership.objects.filter(user=user.pk or 0, blog__removed_at=None)
    return frozenset(rows.values_list("blog", flat=True))


def is_member(user: Person, blog: Blog) -> bool:
    """Whether a person has a role on a blog, cached per person object and blog."""
    if user.pk is None:
        return False
    members: dict[int, bool] = user.__dict__.setdefault("_is_member_of", {})
    if blog.pk not in members:
        members[blog.pk] = Membership.objects.filter(user=user.pk, blog=blog).exists()
    return members[blog.pk]


def public_blog(slug: str) -> Blog | None:
    """Return a blog as readers may see it.

    None for none.
    """
    return Blog.objects.filter(slug=slug, removed_at=None).first()


def public_blogs() -> list[str]:
    """Return the slugs of the blogs that everybody may read, at most a thousand."""
    return list(Blog.objects.filter(removed_at=None).order_by("slug").values_list("slug", flat=True)[:1000])


def categories_of(blog: Blog) -> Sequence[Category]:
    """Return the categories of a blog by name."""
    return list(Category.objects.filter(blog=blog).order_by("name")[:500])


def tags_of(blog: Blog) -> Sequence[Tag]:
    """Return the tags of a blog by name."""
    return list(Tag.objects.filter(blog=blog).order_by("name")[:1000])


def bylines_of(blog: Blog) -> Sequence[Byline]:
    """Return the bylines of a blog by name."""
    return list(Byline.objects.filter(blog=blog).order_by("name")[:500])


def word_lists_of(blog: Blog) -> list[WordList]:
    """Return the word lists of a blog by name."""
    return list(WordList.objects.filter(blog=blog).order_by("name", "key")[:200])


def word_list_of(blog: Blog, key: str) -> WordList:
    """Return one word list. Raises NotFound."""
    word_list = WordList.objects.filter(blog=blog, key=key).first()
    if word_list is None:
        raise NotFound(f"This blog has no word list named “{key}”.")
    return word_list


def words_by_key(blog_id: int) -> dict[str, tuple[str, ...]]:
    """Return every word list of a blog in the core's form."""
    rows = WordList.objects.filter(blog=blog_id).values_list("key", "words")
    return {key: tuple(words) for key, words in rows}


def term_tables_of(blog: Blog) -> list[TermTable]:
    """Return the tables of terms of a blog by name."""
    return list(TermTable.objects.filter(blog=blog).order_by("name", "key")[:200])


def term_table_of(blog: Blog, key: str) -> TermTable:
    """Return one table of terms. Raises NotFound."""
    term_table = TermTable.objects.filter(blog=blog, key=key).first()
    if term_table is None:
        raise NotFound(f"This blog has no table of terms named “{key}”.")
    return term_table


def tables_by_key(blog_id: int) -> dict[str, tuple[TableRow, ...]]:
    """Return every table of terms of a blog in the core's form."""
    rows = TermTable.objects.filter(blog=blog_id).values_list("key", "rows")
    return {key: tuple(TableRow(what=what, by=by, link=link) for what, by, link in lines) for key, lines in rows}


_MOST_NAMES = 5000


def blog_context_of(blog: Blog, documents: Collection[CampaignDocument]) -> BlogContext:
    """Return the shared values of a blog, limited to those that these rules use."""
    tags = any(document.place.tags or document.place.tag_rules for document in documents)
    bylines = any(document.place.byline_from is BylineFrom.AUTHOR for document in documents)
    return BlogContext(
        language=blog.language,
        lists=words_by_key(blog.pk) if any(document.uses_lists for document in documents) else {},
        tables=tables_by_key(blog.pk) if any(document.uses_tables for document in documents) else {},
        tags=_names(Tag.objects.filter(blog=blog)) if tags else (),
        bylines=_names(Byline.objects.filter(blog=blog)) if bylines else (),
        common=common_text_of(blog.pk),
        renamed=renamed_of(blog),
    )


def renamed_of(blog: Blog) -> Renamed:
    """Return the present names of what rules may still call by a former name."""
    former: dict[str, dict[str, int]] = {kind.value: {} for kind in NameKind}
    for kind, key, target in FormerName.objects.filter(blog=blog).order_by("pk").values_list("kind", "key", "target"):
        former[kind][key] = target
    return Renamed(
        categories=_present(Category, former[NameKind.CATEGORY.value]),
        tags=_present(Tag, former[NameKind.TAG.value]),
        bylines=_present(Byline, former[NameKind.BYLINE.value]),
    )


def _present(model: type[Category | Tag | Byline], former: Mapping[str, int]) -> tuple[tuple[str, str], ...]:
    if not former:
        return ()
    names = dict(model.objects.filter(pk__in=former.values()).values_list("pk", "name"))
    return tuple((key, names[target]) for key, target in former.items() if target in names)


_common: dict[int, tuple[datetime, CommonShingles]] = {}
_MOST_BLOGS = 32


def common_text_of(blog_id: int) -> CommonShingles:
    """Return the common passages of a blog.

    The counts are read once per version.
    """
    learned_at = CommonText.objects.filter(blog=blog_id).values_list("learned_at", flat=True).first()
    if learned_at is None:
        return NOTHING_COMMON
    counts = _common.get(blog_id)
    if counts is None or counts[0] != learned_at:
        row = CommonText.objects.get(blog=blog_id)
        counts = _common[blog_id] = row.learned_at, CommonShingles.unpacked(bytes(row.counts))
        while len(_common) > _MOST_BLOGS:
            _common.pop(next(iter(_common)), None)
    return counts[1]


def _names(rows: QuerySet[Tag] | QuerySet[Byline]) -> tuple[str, ...]:
    return tuple(rows.order_by("pk").values_list("name", flat=True)[:_MOST_NAMES])


def keeping_of(blog: Blog) -> Keeping:
    """Return for how long a blog keeps its records."""
    return Keeping.model_validate(blog.keeping)


def kept_for(record: Record, blog: str) -> list[tuple[int, Q]]:
    """Return for how many days which rows of a kind of record are kept, in two parts or more.

    ``blog`` is the way from a row to the number of its blog. Rows that belong to no blog have the usual number.
    """
    own = Blog.objects.filter(keeping__has_key=record.value).values_list("pk", "keeping")
    by_days: dict[int, list[int]] = {}
    for number, keeping in own:
        by_days.setdefault(Keeping.model_validate(keeping).days(record), []).append(number)
    set_apart = [number for numbers in by_days.values() for number in numbers]
    others = ~Q(**{f"{blog}__in": set_apart}) if set_apart else Q()
    return [
        (usual_days(record), others),
        *((days, Q(**{f"{blog}__in": numbers})) for days, numbers in sorted(by_days.items())),
    ]
