"""The desk's list of posts: orders, pages and counts.

A page costs about the same anywhere in a list of 100,000 posts, since an index alone yields the numbers of its rows. In
an order by the name of a campaign, source or category, posts are counted by name first, so that only those of the
page's names are read. A search uses the indexes of words and titles; where it finds more than a list shows, posts are
scanned in order until the list is full.
"""

from collections import Counter
from collections.abc import Collection, Mapping
from dataclasses import dataclass

from django.db.models import Count, Model, QuerySet

from glyptarch_server.blogs.models import Blog, Category
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.lookups import AnyOf, by_index
from glyptarch_server.common.paging import SEARCHED, NumbersFirst, page_of
from glyptarch_server.posts.filters import PostFilter, in_state, named_posts, ways_to_find
from glyptarch_server.posts.lifecycle import AT_THE_DESK, PostState
from glyptarch_server.posts.models import Post
from glyptarch_server.sources.models import Source

__all__ = [
    "LISTED",
    "PostPage",
    "languages_made",
    "listed_posts",
    "names_filed",
    "numbers_of",
    "page_of_posts",
    "with_names",
]

LISTED = (
    *("state", "title", "excerpt", "slug", "lead_url", "kind", "pinned", "visibility", "link", "date", "created_at"),
    *("version", "edited", "words", "marker", "binned_at", "out_at", "copies_pictures", "spare_leads", "comment_count"),
    *("language", "edition_of_id"),
    *(
        "category__name",
        "byline__name",
        "campaign__name",
        "campaign__slug",
        "revision__number",
        "source__title",
        "source__right",
        "source__right_words",
    ),
)
"""What the list of posts on the desk shows."""

_NEWEST = ("-date", "-pk")
_SORTS: Mapping[str, tuple[str, ...]] = {
    "newest": _NEWEST,
    "oldest": ("date", "pk"),
    "title": ("title", "pk"),
    "words": ("words", "pk"),
    "state": ("state", *_NEWEST),
    "comments": ("comment_count", "pk"),
}


@dataclass(frozen=True, slots=True)
class _Names:
    """An order by name: a column of a post, the model it refers to, and the name's field there."""

    column: str
    model: type[Model]
    name: str


_BY_NAME: Mapping[str, _Names] = {
    "campaign": _Names("campaign_id", Campaign, "name"),
    "source": _Names("source_id", Source, "title"),
    "category": _Names("category_id", Category, "name"),
}


@dataclass(frozen=True, slots=True)
class PostPage:
    """Some rows of the list, the total number, and the number in each state where known."""

    rows: list[Post]
    total: int
    states: dict[str, int] | None


def with_names(rows: QuerySet[Post]) -> QuerySet[Post]:
    """Select posts with the names of everything they belong to."""
    return rows.select_related("category", "byline", "campaign", "revision", "source")


def names_filed(posts: Collection[Post]) -> tuple[dict[int, list[str]], dict[int, list[str]]]:
    """Return the names of categories, and of tags, of posts by post number."""
    numbers = [post.pk for post in posts]
    return _names(Post.categories.through, "category__name", numbers), _names(Post.tags.through, "tag__name", numbers)


def languages_made(posts: Collection[Post]) -> dict[int, list[str]]:
    """Return the languages of the editions of posts, by post number."""
    made: dict[int, list[str]] = {}
    rows = Post.objects.filter(AnyOf("edition_of_id", [post.pk for post in posts])).exclude(state=PostState.GONE.value)
    for number, language in rows.order_by("language").values_list("edition_of", "language"):
        made.setdefault(number or 0, []).append(language)
    return made


def _names(filed: type[Model], name: str, posts: Collection[int]) -> dict[int, list[str]]:
    names: dict[int, list[str]] = {number: [] for number in posts}
    rows = filed._default_manager.filter(AnyOf("post_id", posts))  # noqa: SLF001 - Django's documented way
    for number, text in rows.order_by(name).values_list("post_id", name):
        names[number].append(text)
    return names


def page_of_posts(blog: Blog, wanted: PostFilter, *, sort: str, limit: int, offset: int) -> PostPage:
    """Return a page of the posts that a filter finds. A search covers ``SEARCHED`` posts."""
    found_posts = named_posts(blog, wanted)
    whole = True
    if wanted.search:
        numbers = _found_by_index(blog, wanted.search)
        whole = numbers is not None
        found_posts = named_posts(blog, wanted, searched=numbers)
    rows = in_state(found_posts, wanted)
    if not whole:
        page, total = page_of(_in_order(rows, sort), limit=limit, offset=offset, most=SEARCHED)
        return PostPage(page, total, None)
    by = _BY_NAME.get(sort.removeprefix("-"))
    states, named = _counted(found_posts, by, [wanted.state] if wanted.state else AT_THE_DESK)
    ordered = _in_order(rows, sort)
    paged = _NamesFirst(ordered, by, named, down=sort.startswith("-")) if by else NumbersFirst(ordered)
    return PostPage(paged[offset : offset + limit], named.total(), states)


def listed_posts(blog: Blog, wanted: PostFilter, *, sort: str = "newest") -> QuerySet[Post]:
    """Return all posts of a blog that a filter finds, in order, for the desk."""
    return _in_order(in_state(named_posts(blog, wanted), wanted), sort)


def numbers_of(blog: Blog, wanted: PostFilter, *, sort: str = "") -> list[int]:
    """Return the numbers of all posts that a filter finds, optionally in order."""
    if sort:
        return list(listed_posts(blog, wanted, sort=sort).values_list("pk", flat=True))
    return list(in_state(named_posts(blog, wanted), wanted).order_by().values_list("pk", flat=True))


def _in_order(rows: QuerySet[Post], sort: str) -> QuerySet[Post]:
    name, down = sort.removeprefix("-"), sort.startswith("-")
    rows = with_names(rows).only(*LISTED)
    if name in _BY_NAME:
        names = _BY_NAME[name]
        order = (f"{names.column.removesuffix('_id')}__{names.name}", names.column)
        return rows.order_by(*_towards(order, down=down), *_NEWEST)
    return rows.order_by(*_towards(_SORTS.get(name, _NEWEST), down=down))


def _towards(order: tuple[str, ...], *, down: bool) -> tuple[str, ...]:
    return tuple(part[1:] if part.startswith("-") else f"-{part}" for part in order) if down else order


class _NamesFirst(NumbersFirst[Post]):
    """Posts ordered by a name, a page at a time, newest first within each name.

    Counts by name are known, so only posts of the page's names are sorted. Posts without a name come last, or first in
    the other direction.
    """

    def __init__(self, rows: QuerySet[Post], names: _Names, counted: Counter[int | None], *, down: bool) -> None:
        super().__init__(rows)
        self._names, self._counted, self._down = names, counted, down

    def numbers(self, window: slice) -> list[int]:
        """Return the numbers of the posts in a slice."""
        column, groups = self._names.column, self._in_order_of_names()
        first, parts = 0, []
        for group in groups:
            begin, end = max(window.start - first, 0), min(window.stop - first, self._counted[group])
            if begin < end:
                mine = self.rows.filter(**({f"{column}__isnull": True} if group is None else {column: group}))
                parts.append(mine.order_by(*_NEWEST).values_list(column, "date", "pk")[begin:end])
            first += self._counted[group]
        if not parts:
            return []
        # A union has no defined order.
        numbers = sorted(parts[0].union(*parts[1:], all=True), key=lambda row: row[1:], reverse=True)
        place_of = {group: number for number, group in enumerate(groups)}
        return [row[2] for row in sorted(numbers, key=lambda row: place_of[row[0]])]

    def _in_order_of_names(self) -> list[int | None]:
        known_numbers = [number for number in self._counted if number is not None]
        rows = self._names.model._default_manager.filter(AnyOf("pk", known_numbers))  # noqa: SLF001 - Django's documented way
        ordered: list[int | None] = [*rows.order_by(self._names.name, "pk").values_list("pk", flat=True)]
        if None in self._counted:
            ordered.append(None)
        return ordered[::-1] if self._down else ordered


def _counted(
    posts: QuerySet[Post], by: _Names | None, wanted: Collection[str]
) -> tuple[dict[str, int], Counter[int | None]]:
    """Count posts by state, and those in the wanted states by name, in one query."""
    states: Counter[str] = Counter()
    named: Counter[int | None] = Counter()
    columns = ("state", by.column) if by else ("state",)
    with by_index():
        for state, *group, number in posts.order_by().values_list(*columns).annotate(number=Count("*")):
            states[state] += number
            if state in wanted:
                named[group[0] if group else None] += number
    return {state.value: states[state.value] for state in PostState}, named


def _found_by_index(blog: Blog, words: str) -> list[int] | None:
    """Return the numbers of all posts with some words.

    None where they exceed a list.
    """
    numbers: set[int] = set()
    for way in ways_to_find(words):
        with by_index():
            numbers.update(Post.objects.filter(way, blog=blog).values_list("pk", flat=True)[: SEARCHED + 1])
        if len(numbers) > SEARCHED:
            return None
    return list(numbers)
