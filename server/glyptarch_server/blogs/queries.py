"""Reads about blogs, and the one check of rights."""

from collections.abc import Collection, Sequence
from datetime import datetime
from zoneinfo import ZoneInfo, available_timezones

from django.contrib.auth.base_user import AbstractBaseUser
from django.contrib.auth.models import AnonymousUser
from django.db.models import Count, QuerySet
from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.place import BylineFrom
from glyptarch_core.ports import BlogContext, TableRow
from glyptarch_core.text import NOTHING_COMMON, CommonShingles

from glyptarch_server.blogs.models import Blog, Byline, Category, CommonText, Membership, Role, Tag, TermTable, WordList
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
    "owns_a_blog",
    "public_blog",
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
    """Return the membership of a person on a blog, also on one that was removed. Raises NotFound without one.

    It is kept with the person for the length of the request.
    """
    rows = Membership.objects.select_related("blog").filter(user=user.pk or 0)
    membership = rows.filter(blog__slug=slug).first()
    if membership is None:
        raise NotFound(f"You have no blog named “{slug}”.")
    setattr(user, _ASKED, {slug: membership})
    return membership


def blog_for(user: Person, slug: str, role: Role = Role.VIEWER) -> Blog:
    """Give the blog if this person has at least this role on it.

    Raises NotFound where the person is no member (what one may not see does not exist), and
    Forbidden where the role is not enough: the person's, or that of the token that acts for the person.
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
    """Give the role of a person on a blog; none where the person does not work on it."""
    found = Membership.objects.filter(user=user.pk or 0, blog=blog).values_list("role", flat=True).first()
    return Role(found) if found else None


def blogs_of(user: Person) -> Sequence[Membership]:
    """Give the memberships of a person, by title of the blog."""
    rows = Membership.objects.select_related("blog").filter(user=user.pk or 0, blog__removed_at=None)
    return list(rows.order_by("blog__title", "pk")[:200])


def removed_blogs_of(user: Person) -> Sequence[Blog]:
    """Give the removed blogs that a person owned, the one removed last first: they can still be brought back."""
    rows = Blog.objects.filter(removed_at__isnull=False, members__user=user.pk or 0, members__role=Role.OWNER)
    return list(rows.order_by("-removed_at", "pk")[:200])


def owns_a_blog(user: Person) -> bool:
    """Tell whether a person owns any blog: such people may make others."""
    return Membership.objects.filter(user=user.pk or 0, role=Role.OWNER).exists()


def blogs_within_reach(blog: Blog) -> list[int]:
    """Give the numbers of the blogs that campaigns of this one may compare their items with: itself first.

    The right that is needed is a role on the other blog, and every editor and owner of this blog must
    have it. They write the rules, choose the sources and run them: what they could find out by
    doing so, each of them may read there anyway. A reader of the trace who has no role on the other
    blog learns nothing about its posts (``runs/visibility.py``).
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
    """Give a time zone of the IANA database by its name. Raises Invalid where there is none."""
    if name not in available_timezones():
        raise Invalid(f"There is no time zone named “{name}”. Choose one such as Europe/Berlin.")
    return ZoneInfo(name)


def blog_numbers_of(user: Person) -> frozenset[int]:
    """Give the numbers of the blogs on which a person has a role."""
    rows = Membership.objects.filter(user=user.pk or 0, blog__removed_at=None)
    return frozenset(rows.values_list("blog", flat=True))


def is_member(user: Person, blog: Blog) -> bool:
    """Tell whether a person works on a blog. It is asked once for a person as a request has them, and a blog."""
    if user.pk is None:
        return False
    known: dict[int, bool] = user.__dict__.setdefault("_is_member_of", {})
    if blog.pk not in known:
        known[blog.pk] = Membership.objects.filter(user=user.pk, blog=blog).exists()
    return known[blog.pk]


def public_blog(slug: str) -> Blog | None:
    """Give a blog as any reader may see it."""
    return Blog.objects.filter(slug=slug, removed_at=None).first()


def categories_of(blog: Blog) -> Sequence[Category]:
    """Give the categories of a blog by name."""
    return list(Category.objects.filter(blog=blog).order_by("name")[:500])


def tags_of(blog: Blog) -> Sequence[Tag]:
    """Give the tags of a blog by name."""
    return list(Tag.objects.filter(blog=blog).order_by("name")[:1000])


def bylines_of(blog: Blog) -> Sequence[Byline]:
    """Give the bylines of a blog by name."""
    return list(Byline.objects.filter(blog=blog).order_by("name")[:500])


def word_lists_of(blog: Blog) -> list[WordList]:
    """Give the word lists of a blog by name."""
    return list(WordList.objects.filter(blog=blog).order_by("name", "key")[:200])


def word_list_of(blog: Blog, key: str) -> WordList:
    """Give one word list. Raises NotFound."""
    found = WordList.objects.filter(blog=blog, key=key).first()
    if found is None:
        raise NotFound(f"This blog has no word list named “{key}”.")
    return found


def words_by_key(blog_id: int) -> dict[str, tuple[str, ...]]:
    """Give every word list of a blog as the core takes them."""
    rows = WordList.objects.filter(blog=blog_id).values_list("key", "words")
    return {key: tuple(words) for key, words in rows}


def term_tables_of(blog: Blog) -> list[TermTable]:
    """Give the tables of terms of a blog by name."""
    return list(TermTable.objects.filter(blog=blog).order_by("name", "key")[:200])


def term_table_of(blog: Blog, key: str) -> TermTable:
    """Give one table of terms. Raises NotFound."""
    found = TermTable.objects.filter(blog=blog, key=key).first()
    if found is None:
        raise NotFound(f"This blog has no table of terms named “{key}”.")
    return found


def tables_by_key(blog_id: int) -> dict[str, tuple[TableRow, ...]]:
    """Give every table of terms of a blog as the core takes them."""
    rows = TermTable.objects.filter(blog=blog_id).values_list("key", "rows")
    return {key: tuple(TableRow(what=what, by=by, link=link) for what, by, link in lines) for key, lines in rows}


_MOST_NAMES = 5000


def blog_context_of(blog: Blog, documents: Collection[CampaignDocument]) -> BlogContext:
    """Give what a blog keeps for all its campaigns, as the core takes it; only what these rules ask for is read."""
    tags = any(document.place.tags or document.place.tag_rules for document in documents)
    bylines = any(document.place.byline_from is BylineFrom.AUTHOR for document in documents)
    return BlogContext(
        language=blog.language,
        lists=words_by_key(blog.pk) if any(document.uses_lists for document in documents) else {},
        tables=tables_by_key(blog.pk) if any(document.uses_tables for document in documents) else {},
        tags=_names(Tag.objects.filter(blog=blog)) if tags else (),
        bylines=_names(Byline.objects.filter(blog=blog)) if bylines else (),
        common=common_text_of(blog.pk),
    )


_common: dict[int, tuple[datetime, CommonShingles]] = {}
_MOST_BLOGS = 32


def common_text_of(blog_id: int) -> CommonShingles:
    """Give what is common in the stories of a blog; its counts are read once for each time they are learned."""
    learned_at = CommonText.objects.filter(blog=blog_id).values_list("learned_at", flat=True).first()
    if learned_at is None:
        return NOTHING_COMMON
    known = _common.get(blog_id)
    if known is None or known[0] != learned_at:
        row = CommonText.objects.get(blog=blog_id)
        known = _common[blog_id] = row.learned_at, CommonShingles.unpacked(bytes(row.counts))
        while len(_common) > _MOST_BLOGS:
            _common.pop(next(iter(_common)), None)
    return known[1]


def _names(rows: QuerySet[Tag] | QuerySet[Byline]) -> tuple[str, ...]:
    return tuple(rows.order_by("pk").values_list("name", flat=True)[:_MOST_NAMES])
