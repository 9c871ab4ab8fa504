"""What every public page of a blog has: the blog, its sections, and how long it is kept."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from contextlib import contextmanager
from functools import wraps
from typing import TYPE_CHECKING, Any
from zoneinfo import ZoneInfo

from django.conf import settings
from django.core.cache import cache
from django.http import Http404, HttpRequest, HttpResponse
from django.utils import timezone
from django.utils.translation import gettext
from glyptarch_core.appearance import Look, WayIn, boxes_of, colours_of, look_of
from glyptarch_core.editions import languages_of

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import is_member, public_blog
from glyptarch_server.common.blog_changes import changes
from glyptarch_server.common.page_cache import BLOG_HEADER, ENDS_HEADER, GOODS_HEADER
from glyptarch_server.front.assets import script, stylesheet
from glyptarch_server.front.offering import Shelf, noting_goods, page_goods
from glyptarch_server.front.own_words import speaking
from glyptarch_server.front.pages import PostView, card_of_post, lead_addresses
from glyptarch_server.front.saying import said_language
from glyptarch_server.media.queries import copies_of
from glyptarch_server.posts.for_readers import ListedPost, Section, sections_of

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = [
    "blog_context",
    "cards",
    "for_readers",
    "home_in",
    "in_language_of",
    "is_member_asking",
    "of_a_blog",
    "public_blog_or_404",
    "read_in",
    "words_of",
]

_SECTIONS_KEPT = 600


def public_blog_or_404(slug: str) -> "Blog":
    """Return a blog that everybody may read. Raises Http404."""
    blog = public_blog(slug)
    if blog is None:
        raise Http404("There is no blog at this address.")
    return blog


def read_in(blog: "Blog", tag: str) -> "Blog":
    """Return a blog as it is read in one of its languages, with the title and the words of it.

    Never save it. Raises Http404 where the blog has no such language.
    """
    if not tag:
        return blog
    language = languages_of(blog.languages).named(tag)
    if language is None or language.tag != tag:
        raise Http404(gettext("The blog has no pages in this language."))
    blog.usual_language, blog.language, blog.reading = blog.language, language.tag, language.tag
    blog.title, blog.tagline = language.title or blog.title, language.tagline or blog.tagline
    return blog


def in_language_of(blog: "Blog", tag: str) -> "Blog":
    """Return a blog as readers of a text in some language read it."""
    found = languages_of(blog.languages).of_text(tag) if tag else None
    return read_in(blog, found.tag) if found else blog


def home_in(blog: "Blog", language: str) -> str:
    """Return the path of a blog's pages on which readers find posts in a language."""
    found = languages_of(blog.languages).of_text(language) if language else None
    return f"{blog.root}{found.tag}/" if found else blog.root


_View = Callable[..., HttpResponse]
_RIGHT_TO_LEFT = frozenset({"ar", "fa", "he", "ur", "yi", "ckb", "dv", "ps", "sd", "ug"})


@contextmanager
def words_of(blog: "Blog") -> Iterator[None]:
    """Write in the language and the words of a blog, and in its time zone, inside the block."""
    with speaking(blog), timezone.override(ZoneInfo(blog.time_zone)):
        yield


def of_a_blog(view: _View) -> _View:
    """Return a view that gets its blog by the blog's address, and writes in the blog's language."""

    @wraps(view)
    def of_blog(request: HttpRequest, blog: str, language: str = "", **values: object) -> HttpResponse:
        row = read_in(public_blog_or_404(blog), language)
        with words_of(row), noting_goods():
            return view(request, row, **values)

    return of_blog


def is_member_asking(request: HttpRequest, blog: "Blog") -> bool:
    """Whether a request comes from a person of the blog.

    Without a session nobody is looked up.
    """
    return settings.SESSION_COOKIE_NAME in request.COOKIES and is_member(request.user, blog)


def for_readers(request: HttpRequest, blog: "Blog", response: HttpResponse) -> HttpResponse:
    """Let caches keep a page that is the same for everybody.

    They ask each time whether it still holds.
    """
    if settings.SESSION_COOKIE_NAME in request.COOKIES:
        response["Cache-Control"] = "private, no-cache"
    else:
        response["Cache-Control"] = "public, no-cache"
        response[BLOG_HEADER] = str(blog.pk)
        goods = page_goods()
        if goods.end is not None:
            response[ENDS_HEADER] = str(int(goods.end.timestamp()))
        if goods.named:
            response[GOODS_HEADER] = goods.named
    return response


def blog_context(request: HttpRequest | None, blog: "Blog", *, look: Look | None = None) -> dict[str, Any]:
    """Return the template context of every page of a blog, in its own look or another."""
    home = blog.home
    chosen = look or look_of(blog.appearance)
    return {
        "blog": blog,
        "home": home,
        "root": blog.root,
        "languages": languages_to_read(blog),
        "direction": "rtl" if blog.language.partition("-")[0].lower() in _RIGHT_TO_LEFT else "ltr",
        "look": chosen,
        "properties": colours_of(chosen) | boxes_of(chosen),
        "menu": _ways(chosen.menu, home),
        "foot_menu": _ways(chosen.foot_menu, home),
        "sections": _sections(blog, member=is_member_asking(request, blog)) if request else (),
        "stylesheet": stylesheet(),
        # A look that is tried is shown in a frame without scripts.
        "script": "" if look else script(),
        "has_basket": bool(blog.offers.get("has_basket")),
        "absolute_home": request.build_absolute_uri(home) if request else home,
        "origin": request.build_absolute_uri("/").rstrip("/") if request else "",
    }


def languages_to_read(blog: "Blog") -> list[dict[str, object]]:
    """Return the languages of a blog with the paths of their first pages.

    Nothing where it has one only.
    """
    others = languages_of(blog.languages).languages
    usual = blog.usual_language or blog.language
    tags = [(usual, blog.root), *((language.tag, f"{blog.root}{language.tag}/") for language in others)]
    return [
        {"language": tag, "name": said_language(tag), "address": path, "here": path == blog.home, "usual": tag == usual}
        for tag, path in tags
        if others
    ]


def _ways(ways: Iterable[WayIn], home: str) -> list[dict[str, object]]:
    """Return the entries of a menu with whole addresses."""
    elsewhere = ("http://", "https://")
    return [
        {"label": way.label, "address": way.to if is_away else home + way.to, "is_elsewhere": is_away}
        for way in ways
        for is_away in (way.to.startswith(elsewhere),)
    ]


def _sections(blog: "Blog", *, member: bool) -> list[Section]:
    """Return the sections of a blog, which each process keeps until the blog changes.

    Finding them costs a fifth of a page.
    """
    version = changes.version_of(blog.pk)
    if version is None:
        return sections_of(blog, member=member)
    key = f"sections-{blog.pk}-{version}-{member}-{blog.reading}"
    return cache.get_or_set(key, lambda: sections_of(blog, member=member), _SECTIONS_KEPT) or []


def cards(blog: "Blog", posts: Sequence[ListedPost]) -> list[PostView]:
    """Return posts as lists show them, with the copies of their pictures."""
    copies = copies_of(blog.pk, lead_addresses(posts))
    shelf = Shelf(blog, {post.product for post in posts if post.product}, now=wiring.clock()())
    return [card_of_post(post, copies, shelf.of_post(post)) for post in posts]
