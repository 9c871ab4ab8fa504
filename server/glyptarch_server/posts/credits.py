"""Sources, bylines, sections and tags of a blog, as its readers see them."""

import re
from typing import NamedTuple
from urllib.parse import urlsplit

from django.db.models import Count

from glyptarch_server.blogs.models import Blog, Byline, Category, Tag
from glyptarch_server.posts.for_readers import posts_in_lists
from glyptarch_server.sources.models import Source

__all__ = ["Credited", "byline_of", "category_of", "feed_of", "site_of", "source_of", "sources_of", "tag_of", "tags_of"]


class Credited(NamedTuple):
    """A source, byline or tag of a blog as readers see it, with its number of posts."""

    name: str
    slug: str
    link: str
    posts: int
    # The feed of a source.
    feed: str = ""


_MOST_CREDITED = 1000


def sources_of(blog: Blog) -> list[Credited]:
    """Return the sources of the posts for everybody, with most posts first."""
    rows = posts_in_lists(blog, source__isnull=False).order_by().values_list("source__title", "source__key")
    counted = rows.annotate(posts=Count("pk")).order_by("-posts", "source__title")[:_MOST_CREDITED]
    links = {source.key: source for source in Source.objects.filter(blog=blog, key__in=[key for _, key, _ in counted])}
    return [Credited(title, key, site_of(links[key]), posts, feed_of(links[key])) for title, key, posts in counted]


def site_of(source: Source) -> str:
    """Return the address of a source's site."""
    parts = urlsplit(source.url)
    host = parts.netloc.rpartition("@")[2]
    return f"{parts.scheme}://{host}/" if parts.scheme in {"http", "https"} else ""


def feed_of(source: Source) -> str:
    """Return the address of a source's feed.

    Empty where it has none, or where something in its address looks like a key that is nobody else's.
    """
    parts = urlsplit(source.url)
    is_open = not (source.reader_id or source.ask or source.access.sealed or parts.query or "@" in parts.netloc)
    is_open = is_open and not any(map(_looks_like_key, _BETWEEN_WORDS.split(parts.path)))
    return source.url if is_open and parts.scheme in {"http", "https"} else ""


_BETWEEN_WORDS = re.compile(r"[/._~-]+")
_SHORTEST_KEY = 8
_LONGEST_WORD = 30


def _looks_like_key(part: str) -> bool:
    """Whether a part of a path may be a key.

    It is long and has digits or mixed case, or it is longer than any word.
    """
    if len(part) < _SHORTEST_KEY:
        return False
    return len(part) > _LONGEST_WORD or any(map(str.isdigit, part)) or part not in {part.lower(), part.capitalize()}


def tags_of(blog: Blog) -> list[Credited]:
    """Return the tags of the posts for everybody, by name."""
    rows = Tag.objects.filter(blog=blog, posts__in=posts_in_lists(blog).order_by())
    counted = rows.annotate(number=Count("posts")).order_by("-number").values_list("name", "slug", "number")
    most = [Credited(name, slug, "", number) for name, slug, number in counted[:_MOST_CREDITED]]
    return sorted(most, key=lambda tag: tag.name.casefold())


def source_of(blog: Blog, key: str) -> Source | None:
    """Return a source by its key.

    None for none.
    """
    return Source.objects.filter(blog=blog, key=key).first()


def byline_of(blog: Blog, slug: str) -> Byline | None:
    """Return a byline by its slug.

    None for none.
    """
    return Byline.objects.filter(blog=blog, slug=slug).first()


def category_of(blog: Blog, slug: str) -> Category | None:
    """Return a category by its slug.

    None for none.
    """
    return Category.objects.filter(blog=blog, slug=slug).first()


def tag_of(blog: Blog, slug: str) -> Tag | None:
    """Return a tag by its slug.

    None for none.
    """
    return Tag.objects.filter(blog=blog, slug=slug).first()
