"""Stories written as feeds, with the small oddities that feeds in the wild have."""

import html
import json
from collections.abc import Sequence
from email.utils import format_datetime

from glyptarch_standins.stories import Site, Story, site_named

__all__ = ["CONTENT_TYPES", "link_of", "write_feed"]

CONTENT_TYPES = {
    "rss": "application/rss+xml; charset=utf-8",
    "rdf": "application/rdf+xml; charset=utf-8",
    "atom": "application/atom+xml; charset=utf-8",
    "json": "application/feed+json; charset=utf-8",
}
_ATOM = "http://www.w3.org/2005/Atom"
_CONTENT = "http://purl.org/rss/1.0/modules/content/"
_DC = "http://purl.org/dc/elements/1.1/"
_MEDIA = "http://search.yahoo.com/mrss/"


def link_of(story: Story, base: str) -> str:
    """Return the address of a story.

    A shared story links to the first, with a tracking parameter.
    """
    if story.repeat_of:
        site, number = story.repeat_of
        return f"{base}/{site}/notes/{number}?utm_source={story.site}&utm_medium=feed"
    return f"{base}/{story.site}/notes/{story.number}"


def _picture(story: Story, base: str) -> str:
    return f"{base}/pictures/{story.picture}" if story.picture else ""


def _body(story: Story) -> str:
    parts = [f"<p>{html.escape(part, quote=False)}</p>" for part in story.paragraphs]
    if story.picture and story.number % 3 == 0:
        # A relative address, as many editors write.
        parts.insert(1, f'<figure><img src="/pictures/{story.picture}" alt="{html.escape(story.title)}"></figure>')
    if story.footer:
        parts.append(f"<p><em>{html.escape(story.footer)}</em></p>")
    if story.number % 7 == 0:
        parts.append('<p>&nbsp;</p><img src="/pixel.gif" width="1" height="1" alt="">')
    return "".join(parts)


def _title(story: Story) -> str:
    """Every eleventh title is escaped once too often."""
    return html.escape(story.title) if story.number % 11 == 0 else story.title


def _rss(site: Site, stories: Sequence[Story], base: str) -> str:
    items = []
    for story in stories:
        link, picture = html.escape(link_of(story, base)), html.escape(_picture(story, base))
        categories = "".join(f"<category>{html.escape(name)}</category>" for name in story.categories)
        media = ""
        if picture:
            media = (
                f'<enclosure url="{picture}" type="image/jpeg" length="0"/>'
                if story.number % 2
                else f'<media:thumbnail url="{picture}" width="1200" height="675"/>'
            )
        items.append(
            f"<item><title>{html.escape(_title(story))}</title><link>{link}</link>"
            f'<guid isPermaLink="false">{site.name}-{story.number}</guid>'
            f"<pubDate>{format_datetime(story.at)}</pubDate><dc:creator>{html.escape(story.author)}</dc:creator>"
            f"<description>{html.escape(story.paragraphs[0])}</description>"
            f"<content:encoded><![CDATA[{_body(story)}]]></content:encoded>{categories}{media}</item>"
        )
    return (
        f'<?xml version="1.0" encoding="utf-8"?><rss version="2.0" xmlns:content="{_CONTENT}" xmlns:dc="{_DC}" '
        f'xmlns:media="{_MEDIA}"><channel><title>{html.escape(site.title)}</title><link>{base}/{site.name}/</link>'
        f"<description>{html.escape(site.tagline)}</description><language>{site.language}</language>"
        f"{''.join(items)}</channel></rss>"
    )


def _rdf(site: Site, stories: Sequence[Story], base: str) -> str:
    links = [html.escape(link_of(story, base)) for story in stories]
    entries = "".join(
        f'<item rdf:about="{link}"><title>{html.escape(_title(story))}</title><link>{link}</link>'
        f"<description>{html.escape(' '.join(story.paragraphs))}</description></item>"
        for story, link in zip(stories, links, strict=True)
    )
    sequence = "".join(f'<rdf:li rdf:resource="{link}"/>' for link in links)
    return (
        '<?xml version="1.0" encoding="utf-8"?><rdf:RDF xmlns="http://purl.org/rss/1.0/" '
        'xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">'
        f'<channel rdf:about="{base}/{site.name}/"><title>{html.escape(site.title)}</title>'
        f"<link>{base}/{site.name}/</link><description>{html.escape(site.tagline)}</description>"
        f"<items><rdf:Seq>{sequence}</rdf:Seq></items></channel>{entries}</rdf:RDF>"
    )


def _atom(site: Site, stories: Sequence[Story], base: str) -> str:
    entries = []
    for story in stories:
        link, picture = html.escape(link_of(story, base)), html.escape(_picture(story, base))
        enclosure = f'<link rel="enclosure" type="image/jpeg" href="{picture}"/>' if picture else ""
        categories = "".join(f'<category term="{html.escape(name)}"/>' for name in story.categories)
        entries.append(
            f"<entry><id>tag:{site.name}.example,2026:{story.number}</id><title>{html.escape(_title(story))}</title>"
            f'<link rel="alternate" href="{link}"/>{enclosure}<published>{story.at.isoformat()}</published>'
            f"<updated>{story.at.isoformat()}</updated><author><name>{html.escape(story.author)}</name></author>"
            f"{categories}<summary>{html.escape(story.paragraphs[0])}</summary>"
            f'<content type="html">{html.escape(_body(story))}</content></entry>'
        )
    newest = stories[0].at.isoformat() if stories else "2026-01-01T00:00:00+00:00"
    return (
        f'<?xml version="1.0" encoding="utf-8"?><feed xmlns="{_ATOM}" xml:lang="{site.language}">'
        f"<id>{base}/{site.name}/</id><title>{html.escape(site.title)}</title>"
        f'<link href="{base}/{site.name}/"/><link rel="self" href="{base}/{site.name}/feed"/>'
        f'<link rel="hub" href="{base}/hub"/><updated>{newest}</updated>{"".join(entries)}</feed>'
    )


def _json(site: Site, stories: Sequence[Story], base: str) -> str:
    items = []
    for story in stories:
        origin = site_named(story.repeat_of[0]) if story.repeat_of else None
        item = {
            "id": f"{base}/{site.name}/notes/{story.number}",
            "url": link_of(story, base),
            "title": _title(story),
            "content_html": _body(story),
            "summary": story.paragraphs[0][:160],
            "date_published": story.at.isoformat().replace("+00:00", "Z"),
            "tags": list(story.categories),
            "authors": [{"name": story.author or (origin.title if origin else site.title)}],
        }
        if story.picture:
            item["image"] = _picture(story, base)
        items.append(item)
    feed = {
        "version": "https://jsonfeed.org/version/1.1",
        "title": site.title,
        "home_page_url": f"{base}/{site.name}/",
        "description": site.tagline,
        "language": site.language,
        "items": items,
    }
    return json.dumps(feed, ensure_ascii=False)


_WRITERS = {"rss": _rss, "rdf": _rdf, "atom": _atom, "json": _json}


def write_feed(site: Site, stories: Sequence[Story], base: str, *, older: str = "") -> bytes:
    """Return stories as the feed of their site.

    ``older`` is the next page of an Atom feed (RFC 5005, 3).
    """
    text = _WRITERS[site.format](site, stories, base)
    if older and site.format == "atom":
        text = text.replace('<link rel="hub"', f'<link rel="next" href="{html.escape(older)}"/><link rel="hub"', 1)
    return text.encode()
