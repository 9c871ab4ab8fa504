"""What search engines are told.

robots.txt (RFC 9309) and site maps (sitemaps.org 0.9, with pictures and news).
"""

from datetime import datetime, timedelta
from typing import TYPE_CHECKING
from xml.sax.saxutils import escape

from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_safe
from glyptarch_core.editions import languages_of
from glyptarch_core.text import clean_text

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import public_blogs
from glyptarch_server.front.around import for_readers, public_blog_or_404, read_in
from glyptarch_server.posts.for_readers import mapped_posts, sections_of

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = ["news_map", "robots", "site_map", "site_map_index"]

_CLOSED = ("/api/", "/desk/", "/join/", "/reset/", "/blog/*/to/", "/blog/*/basket/")
_ROBOTS = "User-agent: *\n" + "".join(f"Disallow: {path}\n" for path in _CLOSED)
_ON_A_MAP = 1000
_MOST_MAPS = 50_000
_NEWS_DAYS = 2
_HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n'
_URLSET = (
    '<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"'
    ' xmlns:image="http://www.google.com/schemas/sitemap-image/1.1"'
    ' xmlns:news="http://www.google.com/schemas/sitemap-news/0.9">'
)


@require_safe
def robots(request: HttpRequest) -> HttpResponse:
    """Allow robots the blogs, keep them out of the desk, and name the site maps."""
    maps = (request.build_absolute_uri(f"/blog/{slug}/sitemap.xml") for slug in public_blogs())
    text = _ROBOTS + "".join(f"Sitemap: {address}\n" for address in maps)
    return HttpResponse(text, content_type="text/plain; charset=utf-8")


def _document(text: str) -> HttpResponse:
    return HttpResponse(_HEAD + text, content_type="application/xml; charset=utf-8")


def _xml(request: HttpRequest, blog: "Blog", text: str) -> HttpResponse:
    return for_readers(request, blog, _document(text))


def _element(name: str, text: str) -> str:
    return f"<{name}>{escape(clean_text(text))}</{name}>"


def _stamp(moment: datetime) -> str:
    return moment.isoformat(timespec="seconds")


@require_safe
def site_map_index(request: HttpRequest, blog: str, language: str = "") -> HttpResponse:
    """Return the index of a blog's site maps.

    Those of one language, or of all where it is the usual one.
    """
    row = read_in(public_blog_or_404(blog), language)
    addresses = _maps_of(request, row)
    if not language:
        for other in languages_of(row.languages).languages:
            addresses += _maps_of(request, read_in(public_blog_or_404(blog), other.tag))
    maps = "".join(f"<sitemap>{_element('loc', address)}</sitemap>" for address in addresses)
    index = f'<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">{maps}</sitemapindex>'
    return _xml(request, row, index)


def _maps_of(request: HttpRequest, row: "Blog") -> list[str]:
    home = request.build_absolute_uri(row.home)
    number = -(-mapped_posts(row).count() // _ON_A_MAP)
    return [*(f"{home}sitemap-{place}.xml" for place in range(1, max(1, number) + 1)), f"{home}sitemap-news.xml"]


@require_safe
def site_map(request: HttpRequest, blog: str, number: str, language: str = "") -> HttpResponse:
    """Return one site map: a thousand posts with their pictures.

    The first has the sections as well.
    """
    row = read_in(public_blog_or_404(blog), language)
    home = request.build_absolute_uri(row.home)
    place = int(number)
    if not 1 <= place <= _MOST_MAPS:
        raise Http404("The blog has no such site map.")
    window = slice((place - 1) * _ON_A_MAP, place * _ON_A_MAP)
    rows = list(mapped_posts(row).values_list("slug", "changed_at", "lead_url")[window])
    if not rows and place > 1:
        raise Http404("The blog has no such site map.")
    entries = []
    if place == 1:
        parts = ("", *(f"section/{section.slug}/" for section in sections_of(row)))
        entries = [f"<url>{_element('loc', home + part)}</url>" for part in parts]
    origin = request.build_absolute_uri("/").rstrip("/")
    for slug, changed_at, lead in rows:
        address = f"{origin}{lead}" if lead.startswith("/") else lead
        picture = f"<image:image>{_element('image:loc', address)}</image:image>" if address else ""
        entries.append(
            f"<url>{_element('loc', f'{home}{slug}/')}{_element('lastmod', _stamp(changed_at))}{picture}</url>"
        )
    return _xml(request, row, f"{_URLSET}{''.join(entries)}</urlset>")


@require_safe
def news_map(request: HttpRequest, blog: str, language: str = "") -> HttpResponse:
    """Return the posts of the last two days with their titles.

    It changes with the clock, so it is never kept.
    """
    row = read_in(public_blog_or_404(blog), language)
    home = request.build_absolute_uri(row.home)
    since = wiring.clock()() - timedelta(days=_NEWS_DAYS)
    rows = mapped_posts(row).filter(date__gte=since).values_list("slug", "title", "date", "language")[:_ON_A_MAP]
    entries = [
        f"<url>{_element('loc', f'{home}{slug}/')}<news:news><news:publication>{_element('news:name', row.title)}"
        f"{_element('news:language', language or row.language)}</news:publication>"
        f"{_element('news:publication_date', _stamp(date))}{_element('news:title', title)}</news:news></url>"
        for slug, title, date, language in rows
    ]
    answer = _document(f"{_URLSET}{''.join(entries)}</urlset>")
    answer["Cache-Control"] = "no-cache"
    return answer
