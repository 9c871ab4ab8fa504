"""The lists of a blog.

The front, sections, tags, sources, bylines and months.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import TYPE_CHECKING, Any
from zoneinfo import ZoneInfo

from django.db.models import QuerySet
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.formats import date_format
from django.utils.translation import gettext, gettext_noop
from django.views.decorators.http import require_safe
from glyptarch_core.appearance import Look, parts_of

from glyptarch_server.front.around import blog_context, cards, for_readers, is_member_asking, of_a_blog
from glyptarch_server.front.described import website
from glyptarch_server.front.pages import said_date
from glyptarch_server.front.parts import front_in_parts
from glyptarch_server.posts.credits import byline_of, category_of, site_of, source_of, sources_of, tag_of, tags_of
from glyptarch_server.posts.days import day_of, months_of
from glyptarch_server.posts.for_readers import listed, posts_in_lists

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog
    from glyptarch_server.posts.models import Post

__all__ = [
    "ON_A_PAGE",
    "archive_page",
    "front_context",
    "front_of",
    "front_page",
    "list_context",
    "month_page",
    "page_number",
    "part_page",
    "sources_page",
    "tags_page",
    "within",
]

ON_A_PAGE = 13
_LONGEST_NUMBER = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """A part of a blog with a list of its own.

    ``feeds`` is the address of its feeds under the blog's.
    """

    heading: str
    rows: "QuerySet[Post]"
    feeds: str = ""
    here: str = ""
    about: str = ""
    link: str = ""
    nothing: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class _Kind:
    """A kind of part: how it is found, and what is said of it."""

    find: Callable[["Blog", str], Any]
    # The name by which ``posts_in_lists`` knows it.
    filed_under: str
    heading: Callable[[Any], str]
    about: str
    missing: str


_PARTS: Mapping[str, _Kind] = {
    "section": _Kind(
        find=category_of,
        filed_under="category",
        heading=lambda section: str(section.name),
        about=gettext_noop("{name} on {blog}."),
        missing=gettext_noop("The blog has no such section."),
    ),
    "tag": _Kind(
        find=tag_of,
        filed_under="tag",
        heading=lambda tag: f"#{tag.name}",
        about=gettext_noop("All that {blog} has under {name}."),
        missing=gettext_noop("Nothing on the blog carries this tag."),
    ),
    "source": _Kind(
        find=source_of,
        filed_under="source",
        heading=lambda source: str(source.title),
        about=gettext_noop("What {blog} has from {name}."),
        missing=gettext_noop("Nothing on the blog is from this source."),
    ),
    "by": _Kind(
        find=byline_of,
        filed_under="byline",
        heading=lambda byline: str(byline.name),
        about=gettext_noop("Posts by {name} on {blog}."),
        missing=gettext_noop("Nothing on the blog is by this name."),
    ),
}


def within(blog: "Blog", kind: str, slug: str, *, member: bool = False) -> Place:
    """Return a part of a blog. Raises Http404 where it has none with this address."""
    part = _PARTS[kind]
    found = part.find(blog, slug)
    if found is None:
        raise Http404(gettext(part.missing))
    heading = part.heading(found)
    return Place(
        heading=heading,
        rows=posts_in_lists(blog, member=member, **{part.filed_under: found}),
        here=slug if kind == "section" else "",
        feeds=f"{kind}/{slug}/",
        about=gettext(part.about).format(name=heading, blog=blog.title),
        link=site_of(found) if kind == "source" else "",
        nothing=gettext(part.missing),
    )


def page_number(request: HttpRequest) -> int:
    """Return the requested page number.

    The first for an invalid one.
    """
    text = request.GET.get("page", "")
    return max(1, int(text)) if text.isascii() and text.isdigit() and len(text) <= _LONGEST_NUMBER else 1


def list_context(blog: "Blog", part: Place, number: int) -> dict[str, Any]:
    """Return what the page of a list shows. Raises Http404 where it has no such page."""
    # One more than a page shows whether an older page exists; counting all would take longer than the page.
    listed_posts = listed(part.rows, slice((number - 1) * ON_A_PAGE, number * ON_A_PAGE + 1))
    if not listed_posts and number > 1:
        raise Http404(gettext("The blog does not go back that far."))
    if not listed_posts and part.nothing:
        raise Http404(part.nothing)
    return {
        "place": part,
        "heading": part.heading,
        "here": part.here,
        "posts": cards(blog, listed_posts[:ON_A_PAGE]),
        "page": number,
        "older": number + 1 if len(listed_posts) > ON_A_PAGE else None,
        "about": " ".join(
            (
                part.about or blog.tagline or blog.title,
                *[gettext("Page {number}.").format(number=number)] * (number > 1),
            )
        ),
    }


def _told_day(blog: "Blog", newest: datetime) -> dict[str, Any]:
    """Return the newest day of a blog, also as its language writes it."""
    return {"day": day_of(blog, newest), "day_said": said_date(newest, "full")}


def _list(request: HttpRequest, blog: "Blog", place: Place) -> HttpResponse:
    number = page_number(request)
    shown, context = list_context(blog, place, number), blog_context(request, blog)
    address = request.build_absolute_uri(request.path + (f"?page={number}" if number > 1 else ""))
    return for_readers(request, blog, render(request, "front/list.html", {**context, **shown, "canonical": address}))


def front_context(blog: "Blog", look: Look, *, member: bool) -> dict[str, Any]:
    """Return what the first page of a blog shows, in its parts."""
    front = front_in_parts(blog, look, member=member, on_a_page=ON_A_PAGE)
    shows_day = front.newest and any(part.kind == "day" for part in parts_of(look))
    return {
        "bands": front.bands,
        "older": front.older,
        "about": blog.tagline or blog.title,
        **(_told_day(blog, front.newest) if shows_day and front.newest else {}),
    }


def front_of(blog: "Blog", *, member: bool = False) -> Place:
    """Return the front of a blog."""
    return Place(heading="", rows=posts_in_lists(blog, member=member))


@require_safe
@of_a_blog
def front_page(request: HttpRequest, row: "Blog") -> HttpResponse:
    """Return the first page of a blog in its parts, or a list of older posts."""
    member = is_member_asking(request, row)
    if page_number(request) > 1:
        return _list(request, row, front_of(row, member=member))
    context = blog_context(request, row)
    shown = front_context(row, context["look"], member=member)
    told = {
        "is_front": True,
        "canonical": request.build_absolute_uri(request.path),
        "data": website(row, context["absolute_home"]),
    }
    return for_readers(request, row, render(request, "front/front.html", context | shown | told))


@require_safe
@of_a_blog
def part_page(request: HttpRequest, row: "Blog", kind: str, slug: str) -> HttpResponse:
    """Return the posts of a section, with a tag, from a source or under a byline."""
    return _list(request, row, within(row, kind, slug, member=is_member_asking(request, row)))


def _index(request: HttpRequest, row: "Blog", template: str, heading: str, **values: object) -> HttpResponse:
    """Return a page that leads to lists."""
    context = blog_context(request, row) | {
        "heading": heading,
        "here": None,
        "about": f"{heading} · {row.title}",
        "canonical": request.build_absolute_uri(request.path),
    }
    return for_readers(request, row, render(request, template, context | values))


@require_safe
@of_a_blog
def archive_page(request: HttpRequest, row: "Blog") -> HttpResponse:
    """Return the months of a blog with their numbers of posts."""
    return _index(request, row, "front/archive.html", gettext("Archive"), months=months_of(row))


@require_safe
@of_a_blog
def month_page(request: HttpRequest, row: "Blog", year: str, month: str) -> HttpResponse:
    """Return the posts of a month."""
    try:
        first = datetime(int(year), int(month), 1, tzinfo=ZoneInfo(row.time_zone))
    except ValueError as error:
        raise Http404(gettext("There is no such month.")) from error
    next_month = (first + timedelta(days=32)).replace(day=1)
    rows = posts_in_lists(row, member=is_member_asking(request, row), date__gte=first, date__lt=next_month).order_by(
        "-date", "-pk"
    )
    heading = date_format(first, "F Y")
    place = Place(
        heading=heading,
        rows=rows,
        about=gettext("All that {blog} had in {month}.").format(blog=row.title, month=heading),
        nothing=gettext("Nothing is from that month."),
    )
    return _list(request, row, place)


@require_safe
@of_a_blog
def sources_page(request: HttpRequest, row: "Blog") -> HttpResponse:
    """Return the sources of a blog's posts."""
    return _index(request, row, "front/sources.html", gettext("Sources"), sources=sources_of(row))


@require_safe
@of_a_blog
def tags_page(request: HttpRequest, row: "Blog") -> HttpResponse:
    """Return the tags of a blog's posts."""
    return _index(request, row, "front/tags.html", gettext("Tags"), tags=tags_of(row))
