"""Invented sites of different structure, with the true links and articles.

Every site has one way to build its list, one to build its article, and one to build the surroundings. The half used for
tuning and the half used for the printed figures share no combination, and the second has structures of its own.
"""
# ruff: noqa: ARG001 - one signature for all builders, and HTML as in real pages

import html
import json
import random
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta

__all__ = ["MadeArticle", "MadeSite", "made_sites", "moved", "odd_pages"]

_FIRST = date(2026, 3, 2)
_NAMES = (
    "Mira Tallow",
    "Edda Quill",
    "Rolf Anders",
    "Vera Lindqvist",
    "Tomas Reed",
    "Ines Marlow",
    "Jonah Finch",
    "Petra Holm",
)
_SUBJECTS = (
    "The comet",
    "A new mirror",
    "The ridge path",
    "Our winter evening",
    "The old dome",
    "A faint nebula",
    "The club's telescope",
    "The meteor count",
    "The dark meadow",
    "A field camera",
    "The star chart",
    "A passing satellite",
    "The northern light",
)
_VERBS = (
    "returns to the valley",
    "draws a crowd",
    "is repaired at last",
    "opens on Friday",
    "surprises the observers",
    "moves to a new place",
    "was seen from the gate",
    "needs your help",
    "shows its tail",
    "gets a second life",
)
_STARTS = (
    "Before dawn",
    "Late in the evening",
    "On the second night",
    "After the rain",
    "In the cold of March",
    "Near the old gate",
    "To everybody's surprise",
    "With a borrowed lens",
    "At the edge of the field",
    "For the third time this year",
)
_MIDDLES = (
    "the observers set up their instruments",
    "members counted more than forty trails",
    "the sky cleared for an hour",
    "a small group walked up the ridge",
    "the camera recorded a bright flash",
    "the mirror was washed and dried",
    "two visitors asked about the faint light",
    "the measurements agreed within a tenth",
    "the wind turned the dome",
    "nobody had expected so clear a view",
)
_ENDS = (
    "and wrote down what they saw.",
    "while the fog lay in the valley.",
    "which had not happened since the spring.",
    "although the moon was nearly full.",
    "and the notes were sent to the archive.",
    "so the work went on until morning.",
    "because the lamp at the road was off.",
    "and everybody stayed for tea.",
    "as the chart had promised.",
    "before the clouds came back.",
)


class _Pen:
    """Writes invented stories, the same for a seed."""

    def __init__(self, seed: int) -> None:
        self.any = random.Random(seed)  # noqa: S311 - invented stories

    def sentence(self) -> str:
        pick = self.any.choice
        return f"{pick(_STARTS)}, {pick(_MIDDLES)} {pick(_ENDS)}"

    def paragraph(self) -> str:
        return " ".join(self.sentence() for _ in range(self.any.randint(2, 6)))

    def title(self) -> str:
        return f"{self.any.choice(_SUBJECTS)} {self.any.choice(_VERBS)}"


@dataclass(frozen=True, slots=True, kw_only=True)
class MadeArticle:
    """An invented article with its true values."""

    slug: str
    title: str
    author: str
    day: date
    paragraphs: tuple[str, ...]
    picture: str

    @property
    def text(self) -> str:
        """The text as in the page."""
        return " ".join(self.paragraphs)

    @property
    def excerpt(self) -> str:
        """The first sentence."""
        return self.paragraphs[0].partition(". ")[0] + "."


@dataclass(frozen=True, slots=True, kw_only=True)
class MadeSite:
    """An invented site: the HTML of its list and of its articles, by address."""

    name: str
    url: str
    list_html: str
    articles: tuple[MadeArticle, ...]
    pages: dict[str, str] = field(default_factory=dict)

    def address(self, article: MadeArticle) -> str:
        """Return the address of an article."""
        return f"{self.url}{article.slug}"


def _articles(pen: _Pen, number: int, *, rtl: bool) -> list[MadeArticle]:
    made: list[MadeArticle] = []
    seen = set[str]()
    day = _FIRST + timedelta(days=pen.any.randint(0, 200))
    while len(made) < number:
        title = pen.title()
        if title in seen:
            continue
        seen.add(title)
        paragraphs = tuple(pen.paragraph() for _ in range(pen.any.randint(3, 9)))
        if rtl:
            paragraphs, title = tuple(_arabic(pen) for _ in paragraphs), _arabic(pen, words=5)
        day -= timedelta(days=pen.any.randint(1, 4))
        slug = (
            f"notes/{len(made) + 100}-{'-'.join(title.lower().replace(chr(39), '').split()[:4])}"
            if not rtl
            else f"notes/{len(made) + 100}"
        )
        made.append(
            MadeArticle(
                slug=slug,
                title=title,
                author=pen.any.choice(_NAMES),
                day=day,
                paragraphs=paragraphs,
                picture=f"/pictures/p{len(made)}.jpg",
            )
        )
    return made


_ARABIC = "السماء النجوم الليل القمر المذنب المرصد التلال الضوء الرصد الغيوم الصباح الكاميرا المرآة الزوار الحقل الشتاء".split()


def _arabic(pen: _Pen, words: int = 0) -> str:
    def some(count: int) -> str:
        return " ".join(pen.any.choice(_ARABIC) for _ in range(count))

    return some(words) if words else " ".join(f"{some(pen.any.randint(8, 14))}." for _ in range(pen.any.randint(2, 5)))


_e = html.escape
_DATES: tuple[Callable[[date], str], ...] = (
    lambda day: f"{day.day} {day:%B %Y}",
    lambda day: f"{day:%B} {day.day}, {day:%Y}",
    lambda day: f"{day:%Y-%m-%d}",
    lambda day: f"{day.day:02}.{day.month:02}.{day:%Y}",
    lambda day: f"{day:%b} {day.day}, {day:%Y}",
    lambda day: f"{day:%A}, {day.day} {day:%B %Y}",
)

Lister = Callable[[Sequence[MadeArticle], Callable[[date], str], _Pen], str]
Setter = Callable[[MadeArticle, Callable[[date], str], _Pen], str]


def _semantic(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    return "".join(
        f'<article class="note"><h2><a href="/{one.slug}">{_e(one.title)}</a></h2><time datetime="{one.day}">{on(one.day)}</time>'
        f"<p>{_e(one.excerpt)}</p></article>"
        for one in articles
    )


def _divs(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    return (
        '<div class="list">'
        + "".join(
            f'<div class="entry"><div class="pic"><a href="/{one.slug}"><img src="{one.picture}" alt=""></a></div><div class="head">'
            f'<a href="/{one.slug}">{_e(one.title)}</a></div><div class="when">{on(one.day)}</div><div class="lead">{_e(one.excerpt)}</div>'
            f'<div class="more"><a href="/{one.slug}">Read on</a></div></div>'
            for one in articles
        )
        + "</div>"
    )


def _table(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    return (
        "<table><tr><th>Date</th><th>Title</th></tr>"
        + "".join(
            f'<tr><td>{on(one.day)}</td><td><a href="/{one.slug}">{_e(one.title)}</a><br>{_e(one.excerpt)}</td></tr>'
            for one in articles
        )
        + "</table>"
    )


def _utility(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    return (
        '<div class="grid grid-cols-3 gap-4 mt-8">'
        + "".join(
            f'<div class="flex flex-col p-4 rounded-lg shadow"><img class="w-full h-40" src="{one.picture}" alt=""><span class="text-xs text-gray-500">{on(one.day)}'
            f'</span><a class="text-lg font-bold mt-2" href="/{one.slug}">{_e(one.title)}</a><p class="mt-1 text-sm">{_e(one.excerpt)}</p></div>'
            for one in articles
        )
        + "</div>"
    )


def _generated(articles: Sequence[MadeArticle], on: Callable[[date], str], pen: _Pen) -> str:
    name = "".join(pen.any.choice("abcdefXYZ0123456789") for _ in range(6))
    return (
        f'<div class="sc-{name} css-1{name}">'
        + "".join(
            f'<div class="sc-b{name} k{name}"><div class="css-2{name}"><h3 class="css-3{name}"><a class="css-4{name}" href="/{one.slug}">{_e(one.title)}</a></h3></div>'
            f'<span class="css-5{name}">{on(one.day)}</span><p class="css-6{name}">{_e(one.excerpt)}</p></div>'
            for one in articles
        )
        + "</div>"
    )


def _nested(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    half = len(articles) // 2
    groups = (("Spring", articles[:half]), ("Winter", articles[half:]))
    return (
        "<ul>"
        + "".join(
            f"<li>{name}<ul>"
            + "".join(
                f'<li><a href="/{one.slug}">{_e(one.title)}</a> <small>{on(one.day)}</small></li>' for one in group
            )
            + "</ul></li>"
            for name, group in groups
        )
        + "</ul>"
    )


def _around(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    return (
        '<section class="cards">'
        + "".join(
            f'<a class="card" href="/{one.slug}"><img src="{one.picture}" alt=""><h3>{_e(one.title)}</h3><p>{_e(one.excerpt)}</p><span>{on(one.day)}</span></a>'
            for one in articles
        )
        + "</section>"
    )


def _bare(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    return "".join(
        f'<div><h3><a href="/{one.slug}">{_e(one.title)}</a></h3><p>{on(one.day)}</p><p>{_e(one.excerpt)}</p></div>'
        for one in articles
    )


def _flat(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    return "".join(
        f'<h2><a href="/{one.slug}">{_e(one.title)}</a></h2><p><i>{on(one.day)}</i></p><p>{_e(one.excerpt)}</p><hr>'
        for one in articles
    )


def _rows(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    def cell(one: MadeArticle) -> str:
        return (
            f'<div class="col"><div class="box"><a href="/{one.slug}"><img src="{one.picture}" alt=""></a><h4><a href="/{one.slug}">{_e(one.title)}</a></h4>'
            f'<p class="date">{on(one.day)}</p></div></div>'
        )

    return "".join(
        f'<div class="row">{"".join(cell(one) for one in articles[place : place + 3])}</div>'
        for place in range(0, len(articles), 3)
    )


def _definitions(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    return (
        "<dl>"
        + "".join(
            f'<dt><a href="/{one.slug}">{_e(one.title)}</a></dt><dd>{on(one.day)}: {_e(one.excerpt)}</dd>'
            for one in articles
        )
        + "</dl>"
    )


def _tagged(articles: Sequence[MadeArticle], on: Callable[[date], str], pen: _Pen) -> str:
    return (
        '<main id="stream">'
        + "".join(
            f'<section class="item"><a class="kicker" href="/tag/{pen.any.choice(["sky", "gear"])}">Sky</a><h3 class="item__title"><a href="/{one.slug}">{_e(one.title)}</a></h3>'
            f'<div class="item__meta">By <a href="/author/{one.author.split()[0].lower()}">{one.author}</a> · {on(one.day)}</div><p>{_e(one.excerpt)}</p></section>'
            for one in articles
        )
        + "</main>"
    )


def _numbered(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    return (
        "<ol>"
        + "".join(
            f'<li><p><strong><a href="/{one.slug}">{_e(one.title)}</a></strong></p><p>{on(one.day)}</p><p>{_e(one.excerpt)}</p></li>'
            for one in articles
        )
        + "</ol>"
    )


def _picture_after(articles: Sequence[MadeArticle], on: Callable[[date], str], _pen: _Pen) -> str:
    return (
        '<div role="feed">'
        + "".join(
            f'<div role="article"><div><div><a href="/{one.slug}"><span>{_e(one.title)}</span></a></div><div>{on(one.day)}</div></div><figure><img data-src="{one.picture}" alt=""></figure></div>'
            for one in articles
        )
        + "</div>"
    )


_LISTS_TUNED: tuple[Lister, ...] = (_semantic, _divs, _table, _utility, _generated, _nested, _around, _bare)
_LISTS_KEPT: tuple[Lister, ...] = (_flat, _rows, _definitions, _tagged, _numbered, _picture_after, _generated, _around)

_SHARE = '<div class="share"><a href="https://one.example/">Send</a> <a href="https://two.example/">Show</a> <span>12 shares</span></div>'


def _paragraphs(one: MadeArticle) -> str:
    return "".join(f"<p>{_e(part)}</p>" for part in one.paragraphs)


def _related(pen: _Pen, name: str = "related") -> str:
    return (
        f'<div class="{name}"><h3>More from us</h3><ul>'
        + "".join(f'<li><a href="/notes/{number}">{pen.title()}</a></li>' for number in range(4))
        + "</ul></div>"
    )


def _main_article(one: MadeArticle, on: Callable[[date], str], pen: _Pen) -> str:
    return (
        f'<main><article><h1>{_e(one.title)}</h1><p class="byline">By {one.author}, <time datetime="{one.day}">{on(one.day)}</time></p>'
        f"{_SHARE}{_paragraphs(one)}{_related(pen)}</article></main>"
    )


def _content_div(one: MadeArticle, on: Callable[[date], str], pen: _Pen) -> str:
    half = len(one.paragraphs) // 2
    first, rest = (
        ("".join(f"<p>{_e(part)}</p>" for part in parts)) for parts in (one.paragraphs[:half], one.paragraphs[half:])
    )
    return (
        f'<div id="wrap"><div class="left"><h1>{_e(one.title)}</h1><div class="info"><span class="author">{one.author}</span> <span class="date">{on(one.day)}</span></div>'
        f'<div class="content">{first}<div class="newsletter-box"><p>Sign up for our newsletter and get the best of the week.</p><form><input><button>Sign up</button></form></div>{rest}</div></div>'
        f'<div class="right"><h4>Most read</h4>{"".join(f"<p><a href=/notes/{n}>{pen.title()}</a></p>" for n in range(6))}</div></div>'
    )


def _generated_article(one: MadeArticle, on: Callable[[date], str], pen: _Pen) -> str:
    return (
        f'<div id="root"><div class="sc-bdVaJa kXy1z"><div class="css-1a2b3c"><h1 class="css-9z8y7x">{_e(one.title)}</h1><div class="css-77hh1"><span>Words by {one.author}</span>'
        f'<span>{on(one.day)}</span></div><div class="css-0k9j8h">{"".join(f"<div class=css-p1q2r3>{_e(part)}</div>" for part in one.paragraphs)}</div></div>'
        f'<div class="css-4m5n6o">{"".join(f"<div><a href=/notes/{n}><h4>{pen.title()}</h4></a><p>{pen.sentence()}</p></div>" for n in range(3))}</div></div></div>'
    )


def _bare_article(one: MadeArticle, on: Callable[[date], str], _pen: _Pen) -> str:
    return f"<h1>{_e(one.title)}</h1><p>{on(one.day)}</p><p>by {one.author}</p>{_paragraphs(one)}<hr><p><a href='/'>Back</a></p>"


def _table_article(one: MadeArticle, on: Callable[[date], str], pen: _Pen) -> str:
    return (
        f'<table width="100%"><tr><td width="160" valign="top">{"<br>".join(f"<a href=/s/{n}>{pen.title()}</a>" for n in range(8))}</td>'
        f'<td valign="top"><font size="5"><b>{_e(one.title)}</b></font><br><i>{one.author}, {on(one.day)}</i><br><br>{_paragraphs(one)}</td></tr></table>'
    )


def _breaks_article(one: MadeArticle, on: Callable[[date], str], _pen: _Pen) -> str:
    return f'<div class="page"><h2>{_e(one.title)}</h2><div class="small">{on(one.day)} | {one.author}</div><div class="txt">{"<br><br>".join(map(_e, one.paragraphs))}</div></div>'


def _with_comments(one: MadeArticle, on: Callable[[date], str], pen: _Pen) -> str:
    comments = "".join(
        f'<li class="comment"><b>{pen.any.choice(_NAMES)}</b><p>{pen.paragraph()}</p></li>' for _ in range(8)
    )
    return (
        f'<article class="post"><header><h1>{_e(one.title)}</h1><div class="meta">Posted on {on(one.day)} by {one.author}</div></header>'
        f'<div class="post-body">{_paragraphs(one)}</div></article><section id="comments"><h3>8 comments</h3><ol>{comments}</ol></section>'
    )


def _linked_data(one: MadeArticle, on: Callable[[date], str], pen: _Pen) -> str:
    data = {
        "@context": "https://schema.org",
        "@type": "NewsArticle",
        "headline": one.title,
        "datePublished": f"{one.day}T08:00:00Z",
        "author": {"@type": "Person", "name": one.author},
        "image": [one.picture],
    }
    return (
        f'<script type="application/ld+json">{json.dumps(data)}</script><div class="story"><h1>{_e(one.title)}</h1><div class="story__text">'
        f"{_paragraphs(one)}</div>{_related(pen, 'story__next')}</div>"
    )


def _microdata(one: MadeArticle, on: Callable[[date], str], pen: _Pen) -> str:
    return (
        f'<div itemscope itemtype="https://schema.org/Article"><h1 itemprop="headline">{_e(one.title)}</h1><span itemprop="author" itemscope><span itemprop="name">{one.author}</span></span>'
        f'<meta itemprop="datePublished" content="{one.day}"><div itemprop="articleBody">{_paragraphs(one)}</div></div><aside>{pen.paragraph()}{pen.paragraph()}</aside>'
    )


def _long_side(one: MadeArticle, on: Callable[[date], str], pen: _Pen) -> str:
    teasers = "".join(
        f'<div class="teaser"><h4><a href="/notes/{n}">{pen.title()}</a></h4><p>{pen.sentence()}</p></div>'
        for n in range(7)
    )
    return (
        f'<div class="columns"><div class="main-col"><div class="headline"><h1>{_e(one.title)}</h1></div><div class="dateline">{on(one.day)}</div><div class="writer">{one.author}</div>'
        f'{_paragraphs(one)}<div class="author-bio"><p>{one.author} lives near the ridge and writes about the sky for us. {pen.sentence()}</p></div></div><div class="side-col">{teasers}</div></div>'
    )


def _cookie(one: MadeArticle, on: Callable[[date], str], pen: _Pen) -> str:
    return (
        f'<div class="cookie-banner"><p>We use cookies to improve our pages. You can find out more in our cookie policy and change your settings at any time.</p><button>Accept</button></div>'
        f"<section><h1>{_e(one.title)}</h1><p><em>{one.author} — {on(one.day)}</em></p>{_paragraphs(one)}<p>© 2026 The Ridge. All rights reserved.</p></section>{_related(pen, 'box')}"
    )


def _wrapped(one: MadeArticle, on: Callable[[date], str], pen: _Pen) -> str:
    parts = [f'<div class="block block--text"><p>{_e(part)}</p></div>' for part in one.paragraphs]
    parts.insert(
        1, '<div class="block block--promo"><p><a href="/notes/7">Read also: the other story of the week</a></p></div>'
    )
    parts.insert(len(parts) // 2, f'<figure class="block"><img src="{one.picture}" alt=""></figure>')
    return (
        f'<div class="story-page"><h1 class="t">{_e(one.title)}</h1><ul class="facts"><li>{on(one.day)}</li><li>by {one.author}</li></ul>{"".join(parts)}'
        f'<div class="block block--tags"><a href="/tag/a">Sky</a> <a href="/tag/b">Night</a></div></div>'
    )


def _hgroup(one: MadeArticle, on: Callable[[date], str], pen: _Pen) -> str:
    return (
        f'<main id="m"><div><p>{on(one.day)}</p><h1>{_e(one.title)}</h1><p>Text: {one.author}</p></div><div>{_paragraphs(one)}</div><div><h2>Latest</h2>'
        f"{''.join(f'<a href=/notes/{n}><div>{pen.title()}</div></a>' for n in range(5))}</div></main>"
    )


_ARTICLES_TUNED: tuple[Setter, ...] = (
    _main_article,
    _content_div,
    _generated_article,
    _bare_article,
    _table_article,
    _breaks_article,
    _with_comments,
)
_ARTICLES_KEPT: tuple[Setter, ...] = (
    _linked_data,
    _microdata,
    _long_side,
    _cookie,
    _wrapped,
    _hgroup,
    _generated_article,
)


def _no_chrome(inner: str, _pen: _Pen) -> str:
    return inner


def _menu(inner: str, pen: _Pen) -> str:
    return (
        f'<header><a href="/">The Ridge</a><nav><ul>{"".join(f"<li><a href=/section/{name}>{name.title()}</a></li>" for name in ("sky", "gear", "evenings", "visits"))}</ul></nav></header>'
        f'{inner}<footer><p>The Ridge is a made-up paper.</p><ul><li><a href="/about">About us</a></li><li><a href="/privacy">Privacy</a></li><li><a href="/contact">Contact</a></li></ul></footer>'
    )


def _sidebar(inner: str, pen: _Pen) -> str:
    most = "".join(f'<li><a href="/notes/{number}">{pen.title()}</a></li>' for number in range(5))
    return f'<div id="page"><div id="top"><a href="/">Home</a> | <a href="/archive">Archive</a> | <a href="/visit">Visit</a></div><div id="middle">{inner}</div><div id="side"><h3>Most read</h3><ul>{most}</ul></div></div>'


def _two_lists(inner: str, pen: _Pen) -> str:
    events = "".join(
        f'<div class="event"><a href="/events/{number}">{pen.any.choice(["Open night", "Walk", "Talk"])} {number}</a> <span>1{number} May</span></div>'
        for number in range(6)
    )
    return f'<div class="shell"><div class="shell__main">{inner}</div><div class="shell__aside"><h2>Dates</h2>{events}</div></div>'


_SURROUNDINGS = (_no_chrome, _menu, _sidebar, _two_lists)


def _page(title: str, inner: str, *, rtl: bool = False, head: str = "") -> str:
    direction = ' lang="ar" dir="rtl"' if rtl else ' lang="en"'
    return f'<!doctype html><html{direction}><head><meta charset="utf-8"><title>{_e(title)}</title>{head}</head><body>{inner}</body></html>'


def _site(number: int, lister: Lister, setter: Setter, surround: Callable[[str, _Pen], str], *, rtl: bool) -> MadeSite:
    pen = _Pen(number)
    articles = _articles(pen, pen.any.randint(6, 14), rtl=rtl)
    on = _DATES[number % len(_DATES)]
    url = f"https://site{number}.example/"
    list_html = _page("The Ridge", surround(lister(articles, on, pen), pen), rtl=rtl)
    pages = {}
    for one in articles[:5]:
        head = (
            f'<meta property="og:title" content="{_e(one.title)}"><meta property="og:site_name" content="The Ridge">'
            if number % 3 == 0
            else ""
        )
        pages[one.slug] = _page(f"{one.title} | The Ridge", surround(setter(one, on, pen), pen), rtl=rtl, head=head)
    name = f"{number}: {lister.__name__.strip('_')}, {setter.__name__.strip('_')}, {surround.__name__.strip('_')}{', right to left' if rtl else ''}"
    return MadeSite(name=name, url=url, list_html=list_html, articles=tuple(articles), pages=pages)


def moved(site: MadeSite, *, kept: bool) -> str:
    """Return the list of a site in another layout, with the same articles."""
    lists = _LISTS_KEPT if kept else _LISTS_TUNED
    number = int(site.name.partition(":")[0])
    pen = _Pen(number + 5000)
    lister = lists[(number + 3) % len(lists)]
    inner = lister(site.articles, _DATES[number % len(_DATES)], pen)
    return _page("The Ridge", _SURROUNDINGS[number % len(_SURROUNDINGS)](inner, pen))


def made_sites(*, kept: bool) -> list[MadeSite]:
    """Return the invented sites of one half: for tuning, or for the printed figures."""
    lists, setters = (_LISTS_KEPT, _ARTICLES_KEPT) if kept else (_LISTS_TUNED, _ARTICLES_TUNED)
    sites = []
    for place in range(32):
        surround = _SURROUNDINGS[(place // 2 + place) % len(_SURROUNDINGS)]
        sites.append(
            _site(
                place + (1000 if kept else 0),
                lists[place % len(lists)],
                setters[(place * 3 + place // 8) % len(setters)],
                surround,
                rtl=place % 16 == 9,
            )
        )
    return sites


def odd_pages() -> dict[str, list[str]]:
    """Return pages that are no articles, by kind."""
    pen = _Pen(77)
    nav = "<nav><a href='/'>Home</a> <a href='/sky'>Sky</a></nav>"
    return {
        "error": [
            _page(
                "Page not found",
                f"{nav}<h1>404</h1><p>The page that you were looking for does not exist. It may have moved, or it never was.</p>",
            ),
            _page("Something went wrong", f"{nav}<h1>Something went wrong</h1><p>Please try again in a moment.</p>"),
        ],
        "consent": [
            _page(
                "Before you continue",
                "<div><h1>Before you continue</h1><p>We and our partners use cookies to measure how our pages are read, to remember your choices and to show you what may be of interest. You can change this at any time.</p><button>Accept all</button><button>Manage options</button></div>",
            ),
            _page(
                "Your privacy",
                "<main><h2>Your privacy matters to us</h2><p>This site uses cookies and similar means. Some are needed, others help us to improve the site and its advertising. Tell us what you consent to.</p><a href='/yes'>I agree</a> <a href='/no'>Reject</a></main>",
            ),
        ],
        "login": [
            _page(
                "Sign in",
                f"{nav}<h1>Sign in</h1><form><input name='user'><input type='password'><button>Sign in</button></form><p>Members read everything.</p>",
            )
        ],
        "paywall": [
            _page(
                "A comet | The Ridge",
                f"{nav}<article><h1>{pen.title()}</h1><p>{pen.sentence()}</p><div class='paywall'><h2>Subscribe to continue reading</h2><p>This story is for subscribers only. Choose the plan that suits you and read everything that we write, on all your devices. You can cancel at any time.</p><a>Already a subscriber? Sign in</a></div></article>",
            ),
            _page(
                "A mirror | The Ridge",
                f"{nav}<main><h1>{pen.title()}</h1><p>{pen.sentence()} {pen.sentence()}</p><section><p>You have no free articles left this month. Become a member to keep reading, and support the people who write it. It costs less than a cup of tea a week.</p></section></main>",
            ),
        ],
        "scripted": [
            _page(
                "The Ridge",
                "<div id='app'></div><script src='/a.js'></script><noscript>Please turn on JavaScript to see this page.</noscript>",
            )
        ],
    }
