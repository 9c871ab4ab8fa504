"""Queries for the readers of a blog: visible posts and their addresses."""

from collections.abc import Collection, Mapping, Sequence
from datetime import datetime
from typing import Any, NamedTuple, Protocol

from django.contrib.postgres.search import SearchRank
from django.db.models import Exists, F, OuterRef, Q, QuerySet, Subquery
from glyptarch_core.draft import Visibility
from glyptarch_core.editions import languages_of
from glyptarch_core.match import similar_texts

from glyptarch_server.blogs.models import Blog, Category, Tag
from glyptarch_server.common.lookups import AnyOf, by_index
from glyptarch_server.posts.filters import word_query
from glyptarch_server.posts.lifecycle import NO_LONGER, PostState
from glyptarch_server.posts.models import ON_THE_BLOG, PAGE_KIND, FormerAddress, Post
from glyptarch_server.sources.models import Source

__all__ = [
    "Edition",
    "ListedPost",
    "Section",
    "editions_of",
    "former_address",
    "found_posts",
    "further_posts",
    "listed",
    "listed_by_number",
    "mapped_posts",
    "neighbour",
    "posts_in_feed",
    "posts_in_lists",
    "public_posts",
    "readable_post",
    "sections_of",
    "texts_of",
    "usual_language",
    "was_out_at",
]


class ListedPost(Protocol):
    """The columns of a post in a blog's lists: title, picture, teaser and byline."""

    pk: int
    kind: str
    slug: str
    title: str
    excerpt: str
    lead_url: str
    lead_alt: str
    spare_leads: Sequence[Mapping[str, str]]
    copies_pictures: bool
    date: datetime
    pinned: bool
    visibility: str
    fields: Sequence[Mapping[str, Any]]
    category__name: str | None
    category__slug: str | None
    byline__name: str | None
    byline__slug: str | None
    source__title: str | None
    source__key: str | None
    product: str
    quiet_goods: bool


_LISTED = tuple(ListedPost.__annotations__)


def listed(posts: QuerySet[Post], window: slice) -> list[ListedPost]:
    """Return a slice of posts with the columns that lists show.

    Without texts and model objects the front page costs half as much.
    """
    # The subquery uses an index alone, so a page far down costs index entries, not rows.
    numbers = posts.values("pk")[window]
    rows = Post.objects.filter(pk__in=numbers).order_by(*posts.query.order_by)
    return list(rows.values_list(*_LISTED, named=True))


def listed_by_number(posts: QuerySet[Post], numbers: Collection[int]) -> dict[int, ListedPost]:
    """Return those of some posts that are among ``posts``, by number."""
    rows = posts.filter(AnyOf("pk", numbers)).order_by()
    return {post.pk: post for post in rows.values_list(*_LISTED, named=True)}


def former_address(blog: Blog, slug: str) -> FormerAddress | None:
    """Return the former address with this slug.

    None for none.
    """
    return FormerAddress.objects.filter(blog=blog, slug=slug).select_related("post").first()


def was_out_at(blog: Blog, slug: str) -> bool:
    """Whether readers have seen a post at an address that is now in the bin or gone."""
    rows = Post.objects.filter(blog=blog, slug=slug, state__in=NO_LONGER, out_at__isnull=False)
    return rows.exists()


class Section(NamedTuple):
    """A category as readers see it."""

    pk: int
    parent_id: int | None
    name: str
    slug: str


def sections_of(blog: Blog, *, member: bool = False) -> list[Section]:
    """Return the categories with visible posts, and their parents, by name."""
    filed = Post.objects.filter(ON_THE_BLOG, blog=blog, categories=OuterRef("pk"))
    readable = _of_language(_readable(filed, member=member), blog)
    # With EXISTS, PostgreSQL would join all posts to all categories; the subquery finds one post of each.
    rows = Category.objects.filter(blog=blog).annotate(found=Subquery(readable.values("pk")[:1]))
    with by_index():
        filled = rows.filter(found__isnull=False).order_by("name").values_list(*Section._fields)[:500]
        new = [Section(*row) for row in filled]
    sections: dict[int, Section] = {}
    while new:
        sections |= {section.pk: section for section in new}
        above = {section.parent_id for section in new if section.parent_id} - sections.keys()
        new = [Section(*row) for row in Category.objects.filter(pk__in=above).values_list(*Section._fields)]
    return sorted(sections.values(), key=lambda section: section.name)


def _of_language(rows: QuerySet[Post], blog: Blog) -> QuerySet[Post]:
    """Narrow posts to the language in which a blog is read.

    In its usual language, to none of its other ones.
    """
    others = languages_of(blog.languages).languages
    if not others:
        return rows
    if not blog.reading:
        for language in others:
            rows = rows.exclude(_in(language.tag))
        return rows
    forms = [language.tag for language in others if language.tag.startswith(f"{blog.reading}-")]
    return rows.filter(_in(blog.reading)).exclude(language__in=forms)


def _in(tag: str) -> Q:
    """Return what finds the posts in a language, or in one form of it."""
    return Q(language=tag) if "-" in tag else Q(base_language=tag)


def _readable(rows: QuerySet[Post], *, member: bool) -> QuerySet[Post]:
    return rows if member else rows.exclude(visibility=Visibility.PRIVATE.value)


def public_posts(blog: Blog, *, member: bool = False) -> QuerySet[Post]:
    """Return the posts that a reader may see.

    Private ones for members only. Posts with a pass phrase are included, since their titles are shown: see
    ``visibility``.
    """
    return _readable(Post.objects.filter(blog=blog, state=PostState.PUBLISHED.value), member=member)


_READ = (
    *(
        "slug",
        "state",
        "title",
        "body",
        "excerpt",
        "description",
        "lead_url",
        "lead_alt",
        "spare_leads",
        "date",
        "link",
    ),
    *(
        "kind",
        "blog_id",
        "language",
        "canonical",
        "fields",
        "pinned",
        "comments",
        "visibility",
        "pass_phrase",
        "attribution",
    ),
    *(
        "item_id",
        "edition_of_id",
        "copies_pictures",
        "copies_recordings_mb",
        "category__name",
        "category__slug",
        "category__blog_id",
    ),
    *(
        "byline__name",
        "byline__slug",
        "source__title",
        "source__key",
        "item__facts",
        "item__media",
        "product",
        "products",
    ),
    "quiet_goods",
)


def readable_post(blog: Blog, slug: str, *, member: bool = False) -> Post | None:
    """Return the post at an address as a reader may see it, with what its page shows."""
    rows = public_posts(blog, member=member).filter(slug=slug).prefetch_related("tags")
    joined = rows.select_related("category", "byline", "source", "item", "edition_of__item")
    post = joined.only(*_READ, "edition_of__item__facts", "edition_of__item__media").order_by().first()
    if post is not None and post.edition_of is not None:
        # Films and sounds are those of the item that its original is made of.
        post.item = post.edition_of.item
    return post


def posts_in_lists(
    blog: Blog,
    *,
    category: Category | None = None,
    tag: Tag | None = None,
    member: bool = False,
    rows: QuerySet[Post] | None = None,
    **values: object,
) -> QuerySet[Post]:
    """Return the posts in a blog's lists, pinned ones first, then newest.

    Those in the language that is read. ``values`` are those of columns, such as a byline. ``rows`` are lists
    already, to be narrowed.
    """
    if rows is None:
        rows = _of_language(public_posts(blog, member=member).filter(ON_THE_BLOG), blog)
    rows = rows.filter(**values)
    if category:
        within = _under(category)
        filed = Post.categories.through.objects.filter(post=OuterRef("pk"), category__in=within)
        rows = rows.filter(Exists(filed)) if len(within) > 1 else rows.filter(categories=category)
    if tag:
        rows = rows.filter(tags=tag)
    return rows.order_by("-pinned", "-date", "-pk")


def _under(category: Category) -> list[int]:
    """Return the numbers of a category and all of its descendants."""
    parents = dict(Category.objects.filter(blog=category.blog_id).exclude(parent=None).values_list("pk", "parent"))
    numbers = [category.pk]
    for number in numbers:
        numbers.extend(child for child, parent in parents.items() if parent == number and child not in numbers)
    return numbers


_LOOKED_THROUGH = 120
# Characters of an excerpt that are compared, beside the title.
_BEGINNING = 160


class Further(NamedTuple):
    """Posts to go on with. ``similar`` says that the first of them is on the same matter."""

    posts: list[ListedPost]
    similar: bool


def further_posts(blog: Blog, post: Post, number: int, *, member: bool = False) -> Further:
    """Return posts to read after one: similar ones, then the newest of its section.

    Similar ones are among the newest 120.
    """
    near = posts_in_lists(blog, member=member).exclude(pk=post.pk).order_by("-date", "-pk")
    rows = listed(near, slice(_LOOKED_THROUGH))
    said = [f"{row.title} {row.excerpt[:_BEGINNING]}" for row in rows]
    alike = similar_texts(f"{post.title} {post.excerpt[:_BEGINNING]}", said)[:number]
    section = post.category.slug if post.category else None
    others = [place for place, row in enumerate(rows) if place not in alike and row.category__slug == section]
    chosen = [rows[place] for place in (*alike, *others)[:number]]
    if not chosen and len(rows) == _LOOKED_THROUGH:
        # A section whose newest post is older than all that were looked through.
        chosen = listed(near.filter(category=post.category), slice(number))
    return Further(chosen, similar=bool(alike))


class Neighbour(NamedTuple):
    """The post before or after another."""

    slug: str
    title: str


def neighbour(blog: Blog, post: Post, *, newer: bool, member: bool = False) -> Neighbour | None:
    """Return the next newer or older post of a blog. None at the ends, and for pages."""
    if post.kind == PAGE_KIND:
        return None
    # The day alone stands first, so that the index begins there.
    if newer:
        beside = Q(date__gte=post.date) & (Q(date__gt=post.date) | Q(pk__gt=post.pk))
    else:
        beside = Q(date__lte=post.date) & (Q(date__lt=post.date) | Q(pk__lt=post.pk))
    order = ("date", "pk") if newer else ("-date", "-pk")
    rows = posts_in_lists(blog, member=member).filter(beside).order_by(*order).values_list("slug", "title")
    return next((Neighbour(*row) for row in rows[:1]), None)


def usual_language(blog: Blog) -> str:
    """Return the usual language of a blog, also while it is read in another."""
    return blog.usual_language or blog.language


class Edition(NamedTuple):
    """A post in a language (BCP 47)."""

    slug: str
    title: str
    language: str


def editions_of(blog: Blog, post: Post, *, member: bool = False) -> list[Edition]:
    """Return the editions of a post by language.

    They are its own, and the newest post of the same item in each other language. At most 50, by one query at most.
    A post without a language has that of the blog.
    """
    origin = post.edition_of_id or post.pk
    same = Q(pk=origin) | Q(edition_of=origin)
    if post.item_id is not None:
        same |= Q(item=post.item_id)
    elif post.edition_of_id is None and not languages_of(blog.languages).languages:
        return []
    rows = public_posts(blog, member=member).filter(ON_THE_BLOG & same).exclude(pk=post.pk)
    newest = rows.order_by("-date", "-pk").values_list("slug", "title", "language")
    usual = usual_language(blog)
    by_language: dict[str, Edition] = {}
    for slug, title, language in newest[:_MOST_EDITIONS]:
        by_language.setdefault(language or usual, Edition(slug, title, language or usual))
    by_language.pop(post.language or usual, None)
    return [by_language[language] for language in sorted(by_language)]


_MOST_EDITIONS = 50


_MOST_RANKED = 500


def found_posts(blog: Blog, words: str, window: slice) -> list[ListedPost]:
    """Return the posts in which all words occur, or words that begin so.

    The best come first: a word in the title weighs most, then newer ones. Where more than ``_MOST_RANKED`` posts have
    the words, the newest come first, because weighing them all would take seconds.
    """
    query = word_query(words)
    if query is None:
        return []
    rows = posts_in_lists(blog, visibility=Visibility.PUBLIC.value, found_by=query).order_by("-date", "-pk")
    with by_index():
        numbers = list(rows.order_by().values_list("pk", flat=True)[: _MOST_RANKED + 1])
    if len(numbers) > _MOST_RANKED:
        with by_index(in_order=True):
            return listed(rows, window)
    best_first = Post.objects.filter(pk__in=numbers).order_by(SearchRank(F("found_by"), query).desc(), "-date", "-pk")
    return listed(best_first, window)


def texts_of(blog: Blog, slugs: Sequence[str]) -> dict[str, str]:
    """Return the texts of some posts as HTML, by slug."""
    rows = Post.objects.filter(blog=blog, slug__in=slugs, state=PostState.PUBLISHED.value)
    return dict(rows.values_list("slug", "body"))


def posts_in_feed(rows: QuerySet[Post], first: int, last: int, *, texts: bool = False) -> list[Post]:
    """Return the newest of some posts that everybody may read, with what feeds carry.

    Those from one place in their order to another.
    """
    joined = rows.filter(visibility=Visibility.PUBLIC.value).select_related("byline", "category", "item")
    left_out = ("found_by",) if texts else ("body", "found_by")
    posts = list(joined.prefetch_related("tags").defer(*left_out).order_by("-date", "-pk")[first:last])
    # With their access, which says whether readers may be given their addresses.
    sources = Source.objects.in_bulk({post.source_id for post in posts if post.source_id})
    for post in posts:
        post.source = sources.get(post.source_id)
    return posts


def mapped_posts(blog: Blog) -> QuerySet[Post]:
    """Return the posts that search engines are told of: for everybody, and original here."""
    return posts_in_lists(blog, visibility=Visibility.PUBLIC.value, canonical="").order_by("-date", "-pk")
