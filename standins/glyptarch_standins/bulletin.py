"""The observatory's bulletin, a site without a feed.

Sections, paging, awkward articles, and two layouts to switch between.
"""

import gzip
import html
import json
from collections.abc import Sequence
from datetime import datetime

from glyptarch_standins.stories import SITES, Story, stories_up_to, story_by_number

__all__ = [
    "APP",
    "ROBOTS",
    "SECTIONS",
    "article_page",
    "hostile_page",
    "list_page",
    "shop_list",
    "shop_page",
    "sitemap",
    "staff_page",
    "tonight",
]

ROBOTS = "User-agent: *\nCrawl-delay: 0.1\nDisallow: /bulletin/staff/\n"
SECTIONS = {
    "sky": "Sky",
    "dome": "Dome",
    "evenings": "Evenings",
    "archive": "Archive",
    "tonight": "Tonight",
    "visits": "Visits",
}
# Sections drawn by scripts: one requests its notes, the other carries them as data.
_DRAWN = ("tonight", "visits")
_A_PAGE = 8
_PAGES = 6
_OBSERVATORY = next(site for site in SITES if site.name == "observatory")
_FONT = (
    "body{font:17px/1.5 Georgia,serif;max-width:60rem;margin:0 auto;padding:1rem 2rem;color:#1c2826;background:#fff}"
)
_STYLES = (
    _FONT
    + ".notes{display:grid;grid-template-columns:1fr 1fr;gap:1.4rem}.note img{width:100%;height:7rem;object-fit:cover}"
    "h2{font-size:1.05rem;margin:.3rem 0}time{color:#555;font-size:.85rem}nav a{margin-right:1rem}.share a{margin-right:.6rem}"
    ".related,.share{background:#eef3f1;padding:.5rem 1rem;font-size:.9rem}header{border-bottom:2px solid #222;margin-bottom:1rem}",
    _FONT
    + ".board{display:flex;flex-wrap:wrap;gap:1rem}.tile{width:46%}.tile img{width:100%;height:6rem;object-fit:cover}"
    ".heading{font-weight:bold}.when{color:#666;font-size:.85rem}.menu span{margin-right:1rem}.shell{padding-top:1rem}",
)
_e = html.escape


def _day(at: datetime, number: int) -> str:
    """Write a day in one of the ways that the bulletin's writers have."""
    ways = (f"{at.day} {at:%B %Y}", f"{at:%B} {at.day}, {at:%Y}", f"{at:%A}, {at.day} {at:%B %Y}")
    return ways[number % len(ways)]


def _stories(section: str, now: datetime, seed: int) -> list[Story]:
    stories = [one for one in stories_up_to(_OBSERVATORY, now, seed, count=160) if one.repeat_of is None]
    places = {"sky": 0, "dome": 1, "evenings": 2}
    return [one for one in stories if section not in places or one.number % len(places) == places[section]]


def _shell(title: str, inner: str, *, layout: int, head: str = "") -> str:
    links = [f'<a href="/bulletin/{name}/">{text}</a>' for name, text in SECTIONS.items()]
    if layout == 1:
        menu = f"<header><strong>ORRIN OBSERVATORY</strong> <nav>{' '.join(links)} <a href='/bulletin/staff/'>Staff</a></nav></header>"
        body = f"{menu}<main>{inner}</main><footer><p>Orrin ridge. Visits by appointment.</p></footer>"
    else:
        body = (
            f'<div class="menu"><b>Orrin Observatory</b> {" ".join(f"<span>{link}</span>" for link in links)}</div>'
            f'<div class="shell"><div class="inner">{inner}</div></div>'
        )
    return (
        f'<!doctype html><html lang="en"><head><meta charset="utf-8"><title>{_e(title)} | Orrin Observatory</title>'
        f"<style>{_STYLES[layout - 1]}</style>{head}<script>window.seen = 1;</script></head><body>{body}</body></html>"
    )


def _entry(story: Story, layout: int) -> str:
    picture = f'<img src="/pictures/{story.picture}" alt="">' if story.picture else ""
    lead = _e(story.paragraphs[0].partition(". ")[0]) + "."
    day = _day(story.at, story.number)
    address = f"/bulletin/notes/{story.number}"
    if layout == 1:
        return (
            f'<article class="note">{picture}<h2><a href="{address}">{_e(story.title)}</a></h2>'
            f"<time>{day}</time><p>{lead}</p></article>"
        )
    return (
        f'<div class="tile" data-kind="note"><div class="text"><a class="heading" href="{address}">{_e(story.title)}</a>'
        f'<div class="when">{day}</div><div class="lead">{lead}</div></div><div class="pic">{picture}</div></div>'
    )


def list_page(section: str, page: int, *, now: datetime, seed: int, layout: int) -> str:
    """Return a page of a section.

    The empty section is the front page.
    """
    name = SECTIONS.get(section, "Bulletin")
    if section in _DRAWN:
        data = ""
        if section == "visits":
            held = json.dumps({"page": {"notes": tonight(now=now, seed=seed)}}).replace("<", "\\u003c")
            data = f'<script id="held" type="application/json">{held}</script>'
        return _shell(name, f'<div id="app"></div>{data}<script src="/bulletin/app.js"></script>', layout=layout)
    stories = _stories(section, now, seed)[(page - 1) * _A_PAGE : page * _A_PAGE]
    entries = "".join(_entry(story, layout) for story in stories)
    body = f'<div class="{"notes" if layout == 1 else "board"}">{entries}</div>'
    address = f"/bulletin/{section + '/' if section else ''}?page={page + 1}"
    if page < _PAGES and len(stories) == _A_PAGE:
        # The archive loads more on scrolling; its link is for the script only.
        hidden = " hidden" if section == "archive" else ""
        body += f'<p class="older"{hidden}><a rel="next" href="{address}">Earlier notes →</a></p>'
    return _shell(name, f"<h1>{name}</h1>{body}", layout=layout)


APP = """const draw = (notes) => {
  document.getElementById("app").innerHTML = "<h1>Notes</h1>" + notes.map((note) =>
    `<article class="note"><h2><a href="${note.url}">${note.title}</a></h2><time>${note.date}</time><p>${note.lead}</p></article>`
  ).join("");
};
const held = document.getElementById("held");
if (held) draw(JSON.parse(held.textContent).page.notes);
else fetch("/bulletin/tonight.json").then((answer) => answer.json()).then(({ notes }) => draw(notes));
"""


def tonight(*, now: datetime, seed: int) -> list[dict[str, str]]:
    """Return the newest notes in the form drawn by the bulletin's script."""
    return [
        {
            "url": f"/bulletin/notes/{story.number}",
            "title": _e(story.title),
            "date": f"{story.at:%Y-%m-%d}",
            "lead": _e(story.paragraphs[0].partition(". ")[0]) + ".",
        }
        for story in _stories("evenings", now, seed)[:_A_PAGE]
    ]


_CONSENT = (
    "<h1>Before you continue</h1><p>We and our partners use cookies to count visits to the bulletin and to remember your"
    " choices. You can change this at any time.</p><button>Accept all</button> <button>Manage options</button>"
)
_EVERY_CONSENT, _EVERY_BROKEN, _EVERY_LONG = 17, 13, 5
_LONG_FROM = 4


def article_page(number: int, part: int, *, seed: int, layout: int) -> str:
    """Return an article.

    Some are in two parts, some are cut off, and one in seventeen is behind a consent page.
    """
    story = story_by_number(_OBSERVATORY, number, seed)
    if number % _EVERY_CONSENT == 4:
        return _shell("Before you continue", _CONSENT, layout=layout)
    paragraphs: Sequence[str] = story.paragraphs
    more = ""
    if number % _EVERY_LONG == 0 and len(paragraphs) >= _LONG_FROM:
        half = len(paragraphs) // 2
        paragraphs = paragraphs[:half] if part == 1 else paragraphs[half:]
        more = (
            f'<p class="parts"><a class="continue" href="/bulletin/notes/{number}?part=2">Continue on page 2</a></p>'
            if part == 1
            else ""
        )
    text = "".join(f"<p>{_e(paragraph)}</p>" for paragraph in paragraphs)
    picture = f'<figure><img src="/pictures/{story.picture}" alt=""></figure>' if story.picture else ""
    share = '<div class="share"><a href="https://post.example/">Send</a> <a href="https://card.example/">Show</a></div>'
    others = "".join(
        f'<li><a href="/bulletin/notes/{number - place}">Note {number - place}</a></li>' for place in (1, 2, 3)
    )
    related = f'<div class="related"><h3>More notes</h3><ul>{others}</ul></div>'
    day = _day(story.at, number)
    if layout == 1:
        inner = (
            f'<article><h1>{_e(story.title)}</h1><p class="byline">By {_e(story.author)}, {day}</p>{picture}'
            f'<div class="body">{text}</div>{more}{share}{related}</article>'
        )
    else:
        inner = (
            f'<div class="top"><div class="when">{day}</div><h1 class="heading">{_e(story.title)}</h1><div class="who">{_e(story.author)}</div></div>'
            f'{share}{picture}<div class="words">{text}</div>{more}{related}'
        )
    page = _shell(story.title, inner, layout=layout)
    return page[: len(page) - 60] if number % _EVERY_BROKEN == 0 else page


def staff_page() -> str:
    """Return the page that robots.txt forbids."""
    return _shell("Staff", "<h1>Staff</h1><p>Who works on the ridge.</p>", layout=1)


def sitemap(base: str, *, now: datetime, seed: int) -> bytes:
    """Return the compressed sitemap of the bulletin."""
    rows = "".join(
        f"<url><loc>{base}/bulletin/notes/{one.number}</loc><lastmod>{one.at:%Y-%m-%dT%H:%M:%S+00:00}</lastmod></url>"
        for one in _stories("", now, seed)[:40]
    )
    text = f'<?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">{rows}</urlset>'
    return gzip.compress(text.encode(), mtime=0)


def hostile_page() -> str:
    """Return a page that tries to run scripts and send requests in many ways."""
    there = "http://elsewhere.invalid"
    return (
        f"<!doctype html><html><head><title>Hostile</title><base href='{there}/'><meta http-equiv='refresh' content='1;url={there}/r'>"
        f"<link rel='stylesheet' href='{there}/s.css'><link rel='preload' as='image' href='{there}/l.png'>"
        f"<style>@import url({there}/i.css);body{{background:url({there}/b.png)}}@font-face{{font-family:x;src:url({there}/f)}}</style>"
        "<script>top.document.title='taken';navigator.serviceWorker&&navigator.serviceWorker.register('/sw.js')</script></head>"
        f"<body onload=\"top.document.title='taken'\"><h1 onclick=\"top.document.title='taken'\">Hostile</h1><img src='{there}/p.png'"
        f" onerror=\"top.document.title='taken'\" srcset='{there}/p2.png 2x'><iframe src='{there}/f' srcdoc='<script>top.x=1</script>'></iframe>"
        f"<svg onload=\"top.document.title='taken'\"><image href='{there}/v.png'/><script>top.document.title='taken'</script></svg>"
        f"<form action='{there}/form' target='_top'><input autofocus onfocus=\"top.document.title='taken'\"><button>Go</button></form>"
        f"<object data='{there}/o'></object><embed src='{there}/e'><video poster='{there}/w.png' src='{there}/v.mp4' autoplay></video>"
        f"<a href='javascript:top.document.title=1' ping='{there}/ping'>Link</a><div style='background:url({there}/d.png)'>Box</div>"
        "<p>There is a text here that a reader sees.</p></body></html>"
    )


_GOODS = (
    "8 x 42 field glass",
    "60 mm refractor",
    "Red lamp",
    "Star chart, large",
    "Tripod with fluid head",
    "Eyepiece 25 mm",
)


def shop_list() -> str:
    """Return the list of the shop."""
    rows = "".join(
        f'<li class="good"><a href="/shop/goods/{number}">{_e(name)}</a> <span class="price">€ {29 + number * 40}.00</span></li>'
        for number, name in enumerate(_GOODS)
    )
    return f"<!doctype html><html lang='en'><title>Glasswright</title><body><h1>Glasswright</h1><ul>{rows}</ul></body></html>"


def shop_page(number: int) -> str:
    """Return the page of a product.

    Every second one has structured data.
    """
    name = _GOODS[number % len(_GOODS)]
    price = 29 + number % len(_GOODS) * 40
    data = {
        "@context": "https://schema.org",
        "@type": "Product",
        "name": name,
        "offers": {
            "@type": "Offer",
            "price": f"{price}.00",
            "priceCurrency": "EUR",
            "availability": "https://schema.org/InStock",
        },
    }
    stated = f'<script type="application/ld+json">{json.dumps(data)}</script>' if number % 2 == 0 else ""
    return (
        f"<!doctype html><html lang='en'><title>{_e(name)} | Glasswright</title>{stated}<body><h1>{_e(name)}</h1>"
        f'<p class="price">€ {price}.00</p><div class="about"><p>Made in our workshop, tested on the ridge in a clear night,'
        f" and mended for as long as there are parts. It comes with a cloth and a bag.</p></div></body></html>"
    )
