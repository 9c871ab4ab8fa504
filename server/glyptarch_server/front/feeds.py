"""The feeds of a blog and of each of its parts.

RSS 2.0, Atom 1.0 (RFC 4287) and JSON Feed 1.1.
"""

import json
import mimetypes
from datetime import UTC, datetime
from typing import TYPE_CHECKING, Any

from django.http import Http404, HttpRequest, HttpResponse
from django.utils.feedgenerator import Atom1Feed, Enclosure, Rss201rev2Feed, SyndicationFeed
from django.utils.http import http_date
from django.utils.translation import gettext
from django.views.decorators.http import conditional_page, require_safe
from glyptarch_core.item import MediaKind
from glyptarch_core.readers.opml import ListedFeed, write_opml
from glyptarch_core.text import absolute, clean_text

from glyptarch_server import wiring
from glyptarch_server.front.around import for_readers, of_a_blog
from glyptarch_server.front.lists import page_number, within
from glyptarch_server.front.offering import Shelf
from glyptarch_server.posts.credits import feed_of, site_of, sources_of
from glyptarch_server.posts.for_readers import posts_in_feed, posts_in_lists

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog
    from glyptarch_server.posts.models import Post

__all__ = ["feed", "sources_list"]

_IN_FEED = 30
_MOST_PAGES = 5_000
_NO_POST = datetime(2000, 1, 1, tzinfo=UTC)
_TYPES = {"rss": "application/rss+xml", "atom": "application/atom+xml", "json": "application/feed+json"}


class _Rss(Rss201rev2Feed):
    """RSS 2.0 with whole texts, pages and sources.

    RDF Site Summary 1.0, Modules: Content, and RFC 5005.
    """

    def rss_attributes(self) -> dict[str, str]:
        """Return the namespaces of the feed."""
        return {**super().rss_attributes(), "xmlns:content": "http://purl.org/rss/1.0/modules/content/"}

    def add_root_elements(self, handler: Any) -> None:  # noqa: ANN401
        """Write what is said of the feed, with the ways to its other pages."""
        super().add_root_elements(handler)
        for relation, address in self.feed["pages"].items():
            handler.addQuickElement("atom:link", None, {"rel": relation, "href": address})

    def add_item_elements(self, handler: Any, item: dict[str, Any]) -> None:  # noqa: ANN401
        """Write an entry, with its source, and its whole text where it has one."""
        super().add_item_elements(handler, item)
        source = item["source"]
        if source and source["feed"]:
            handler.addQuickElement("source", source["title"], {"url": source["feed"]})
        if item.get("text"):
            handler.addQuickElement("content:encoded", item["text"])


class _Atom(Atom1Feed):
    """Atom 1.0 with whole texts, pages (RFC 5005) and sources."""

    def add_root_elements(self, handler: Any) -> None:  # noqa: ANN401
        """Write what is said of the feed, with the ways to its other pages."""
        super().add_root_elements(handler)
        for relation, address in self.feed["pages"].items():
            handler.addQuickElement("link", None, {"rel": relation, "href": address})

    def add_item_elements(self, handler: Any, item: dict[str, Any]) -> None:  # noqa: ANN401
        """Write an entry, with its source, and its whole text where it has one."""
        super().add_item_elements(handler, item)
        source = item["source"]
        if source:
            handler.startElement("source", {})
            handler.addQuickElement("title", source["title"])
            if source["feed"]:
                handler.addQuickElement("link", None, {"rel": "self", "href": source["feed"]})
            if source["site"]:
                handler.addQuickElement("link", None, {"rel": "alternate", "href": source["site"]})
            handler.endElement("source")
        if item.get("text"):
            handler.addQuickElement("content", item["text"], {"type": "html"})


_MAKERS: dict[str, type[SyndicationFeed]] = {"rss": _Rss, "atom": _Atom}


@require_safe
@conditional_page
@of_a_blog
def feed(request: HttpRequest, row: "Blog", form: str, kind: str = "", slug: str = "") -> HttpResponse:
    """Return the newest posts of a blog, or of one part of it.

    Older ones are on further pages (RFC 5005, 3). 304 where unchanged (RFC 9110, 13.1).
    """
    place = within(row, kind, slug) if kind else None
    page = min(page_number(request), _MOST_PAGES)
    first = (page - 1) * _IN_FEED
    rows = place.rows if place else posts_in_lists(row)
    # One more says whether an older page follows.
    found = posts_in_feed(rows, first, first + _IN_FEED + 1, texts=row.full_feeds)
    posts = found[:_IN_FEED]
    if not posts and page > 1:
        raise Http404(gettext("The blog does not go back that far."))
    _fill_offers(row, posts)
    title = f"{row.title}: {place.heading}" if place else row.title
    about = place.about if place else row.tagline or row.title
    home = request.build_absolute_uri(row.home)
    here = f"{home}{place.feeds}" if place else home
    address = request.build_absolute_uri(request.path)
    pages = _pages(address, page, more=len(found) > _IN_FEED and page < _MOST_PAGES)
    if row.hub and page == 1:
        pages["hub"] = row.hub
    if form == "json":
        text = _json_feed(
            row, posts, title=title, about=about, home=home, here=here, address=address, next_page=pages.get("next", "")
        )
    else:
        maker = _MAKERS[form](
            title=clean_text(title),
            link=here,
            description=clean_text(about),
            language=row.language,
            feed_url=address,
            pages=pages,
        )
        for post in posts:
            whole = _text(post, home) if row.full_feeds else ""
            maker.add_item(**_entry(post, home), text=whole, source=_source(post))
        text = maker.writeString("utf-8")
    answer = HttpResponse(text, content_type=f"{_TYPES[form]}; charset=utf-8")
    newest = max((post.changed_at for post in posts), default=None)
    if newest is not None:
        answer["Last-Modified"] = http_date(newest.timestamp())
    return for_readers(request, row, answer)


@require_safe
@conditional_page
@of_a_blog
def sources_list(request: HttpRequest, row: "Blog") -> HttpResponse:
    """Return the sources of a blog as OPML 2.0.

    Where the feed of a source is not for everybody, what the blog has from it is named.
    """
    home = request.build_absolute_uri(row.home)
    sources = [
        ListedFeed(title=source.name, url=source.feed or f"{home}source/{source.slug}/feed.xml", link=source.link)
        for source in sources_of(row)
    ]
    newest = posts_in_lists(row).order_by("-date").values_list("date", flat=True).first()
    text = write_opml(row.title, sources, now=newest or _NO_POST)
    answer = HttpResponse(text, content_type="text/x-opml; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{row.slug}-sources.opml"'
    return for_readers(request, row, answer)


def _fill_offers(blog: "Blog", posts: "list[Post]") -> None:
    """Fill the places for offers in the texts of a feed, without prices.

    Programs keep entries for months.
    """
    if not blog.full_feeds:
        return
    shelf = Shelf(blog, {key for post in posts for key in post.products}, now=wiring.clock()(), tells=False)
    for post in posts:
        post.body = shelf.fill(post.body)


def _pages(address: str, page: int, *, more: bool) -> dict[str, str]:
    """Return the addresses of a feed's neighbouring pages by their relation.

    Empty for a feed of one page.
    """
    if page == 1 and not more:
        return {}
    pages = {"first": address}
    if page > 1:
        pages["previous"] = f"{address}?page={page - 1}" if page > 2 else address  # noqa: PLR2004 - the first has none
    if more:
        pages["next"] = f"{address}?page={page + 1}"
    return pages


def _source(post: "Post") -> dict[str, str] | None:
    """Return the source of a post as entries name it."""
    if post.source is None:
        return None
    return {"title": clean_text(post.source.title), "feed": feed_of(post.source), "site": site_of(post.source)}


def _entry(post: "Post", home: str) -> dict[str, Any]:
    """Return a post as the parameters of an entry of RSS or Atom."""
    address = f"{home}{post.slug}/"
    return {
        "title": clean_text(post.title),
        "link": address,
        "unique_id": address,
        "description": _told(post),
        "pubdate": post.date,
        "updateddate": post.changed_at,
        "author_name": clean_text(post.byline.name) if post.byline else None,
        "categories": _names(post),
        "enclosures": [Enclosure(url, "0", mime) for url, mime in _media(post, home)[:1]],
    }


def _text(post: "Post", home: str) -> str:
    """Return the text of a post as HTML, with full addresses."""
    return clean_text(absolute(post.body, f"{home}{post.slug}/"))


def _told(post: "Post") -> str:
    return clean_text(post.description or post.excerpt or post.title)


def _names(post: "Post") -> list[str]:
    section = [post.category.name] if post.category else []
    return [clean_text(name) for name in (*section, *(tag.name for tag in post.tags.all()))]


def _media(post: "Post", home: str) -> list[tuple[str, str]]:
    """Return the sound or film of a post with its type, then its picture."""
    kinds = {MediaKind.SOUND.value, MediaKind.FILM.value}
    media = [medium for medium in (post.item.media if post.item else []) if medium["kind"] in kinds]
    found = [(medium["url"], medium.get("mime") or _type_of(medium["url"])) for medium in media]
    if post.lead_url:
        url = home.partition("/blog/")[0] + post.lead_url if post.lead_url.startswith("/") else post.lead_url
        found.append((url, _type_of(url, "image/jpeg")))
    return [(url, mime) for url, mime in found if mime and url.startswith(("http://", "https://"))]


def _type_of(url: str, usual: str = "") -> str:
    return mimetypes.guess_type(url.partition("?")[0])[0] or usual


def _json_feed(
    blog: "Blog", posts: "list[Post]", *, title: str, about: str, home: str, here: str, address: str, next_page: str
) -> str:  # fmt: skip
    data = {
        "version": "https://jsonfeed.org/version/1.1",
        "title": title,
        "description": about,
        "home_page_url": here,
        "feed_url": address,
        **({"next_url": next_page} if next_page else {}),
        "language": blog.language,
        **({"hubs": [{"type": "WebSub", "url": blog.hub}]} if blog.hub else {}),
        "items": [_json_item(post, home, whole=blog.full_feeds) for post in posts],
    }
    return json.dumps(data, ensure_ascii=False)


def _json_item(post: "Post", home: str, *, whole: bool) -> dict[str, Any]:
    address = f"{home}{post.slug}/"
    told = _told(post)
    pictures = [url for url, mime in _media(post, home) if mime.startswith("image/")]
    played = [{"url": url, "mime_type": mime} for url, mime in _media(post, home) if not mime.startswith("image/")]
    item = {
        "id": address,
        "url": address,
        "external_url": post.link,
        "title": post.title,
        **({"content_html": _text(post, home)} if whole and post.body else {"content_text": told}),
        "summary": told,
        "image": pictures[0] if pictures else "",
        "date_published": post.date.isoformat(),
        "date_modified": post.changed_at.isoformat(),
        "authors": [{"name": post.byline.name}] if post.byline else [],
        "tags": _names(post),
        "language": post.language,
        "attachments": played,
    }
    return {name: value for name, value in item.items() if value not in ("", [])}
