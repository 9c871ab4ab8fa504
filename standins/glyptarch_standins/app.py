"""The web server of the simulated world, and its control page."""

import asyncio
import hashlib
import html
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from urllib.parse import quote

from aiohttp import web

from glyptarch_standins import bulletin, podcast
from glyptarch_standins.bucket import Buckets
from glyptarch_standins.exchange import Exchange
from glyptarch_standins.faults import FAULTS
from glyptarch_standins.feeds import CONTENT_TYPES, write_feed
from glyptarch_standins.hub import HUB_FAULTS, Hub
from glyptarch_standins.lingua import LINGUA_FAULTS, LINGUA_KEY, Lingua
from glyptarch_standins.mail import Inbox, inbox_page
from glyptarch_standins.pictures import draw
from glyptarch_standins.platforms import PLATFORM_FAULTS, PLATFORM_KEYS, Platforms
from glyptarch_standins.stories import SITES, Site, Story, site_named, stories_up_to, story_by_number

__all__ = ["World", "make_app"]

# The number of pages of an Atom feed.
_FEED_PAGES = 6
_PIXEL = bytes.fromhex("47494638396101000100800000000000ffffff21f90401000000002c00000000010001000002024401003b")
_STYLE = (
    "body{font:16px/1.6 system-ui,sans-serif;max-width:44rem;margin:2rem auto;padding:0 1rem;color:#222;background:#fbfaf7}"
    "img{max-width:100%}h1{line-height:1.2}a{color:#24506b}td,th{padding:.25rem .8rem .25rem 0;text-align:left}"
)


@dataclass(slots=True, kw_only=True)
class World:
    """The state of the simulated world: its seed, how far its clock is ahead, and its faults."""

    seed: int = 7
    fixed: datetime | None = None
    ahead: timedelta = timedelta()
    faults: dict[str, str] = field(default_factory=dict)
    requests: int = 0
    layout: int = 1
    platform_faults: dict[str, str] = field(default_factory=dict)
    inbox: Inbox = field(default_factory=Inbox)
    hub: Hub = field(default_factory=Hub)
    lingua: Lingua = field(default_factory=Lingua)
    buckets: Buckets = field(default_factory=Buckets)

    def now(self) -> datetime:
        """Return the time in the simulated world."""
        return (self.fixed or datetime.now(UTC)) + self.ahead


_WORLD = web.AppKey("world", World)
_TASKS: web.AppKey[set[asyncio.Task[object]]] = web.AppKey("tasks", set)


def _base(request: web.Request) -> str:
    return f"{request.scheme}://{request.host}"


def _site(request: web.Request) -> Site:
    site = site_named(request.match_info["site"])
    if site is None:
        raise web.HTTPNotFound(text="No such site.")
    return site


def _moment(request: web.Request) -> datetime:
    """Return the moment of ``?at=``, for reading the past."""
    given = request.query.get("at")
    return datetime.fromisoformat(given) if given else request.app[_WORLD].now()


def _page(title: str, body: str, head: str = "") -> web.Response:
    text = (
        f'<!doctype html><html lang="en"><meta charset="utf-8"><title>{html.escape(title)}</title>'
        f"<style>{_STYLE}</style>{head}<body>{body}</body></html>"
    )
    return web.Response(text=text, content_type="text/html")


async def _feed(request: web.Request) -> web.StreamResponse:
    world, site = request.app[_WORLD], _site(request)
    world.requests += 1
    page = int(request.query.get("page", "1"))
    stories = stories_up_to(site, _moment(request), world.seed, count=page * site.in_feed)[(page - 1) * site.in_feed :]
    older = f"{_topic(site, _base(request))}?page={page + 1}" if page < _FEED_PAGES else ""
    body = write_feed(site, stories, _base(request), older=older)
    kind = CONTENT_TYPES[site.format]
    fault = FAULTS.get(world.faults.get(site.name, ""))
    if fault:
        return await fault[1](request, body, kind)
    tag = f'"{hashlib.sha256(body).hexdigest()[:24]}"'
    if request.headers.get("If-None-Match") == tag:
        return web.Response(status=304, headers={"ETag": tag})
    answer = web.Response(body=body, headers={"Content-Type": kind, "ETag": tag})
    answer.enable_compression()
    return answer


async def _episodes(request: web.Request) -> web.StreamResponse:
    site = site_named("ridgecast")
    assert site is not None  # noqa: S101 - it is in the list of sites
    stories = stories_up_to(site, _moment(request), request.app[_WORLD].seed)
    return web.Response(body=podcast.podcast_feed(site, stories, _base(request)), content_type="application/rss+xml")


async def _episode(request: web.Request) -> web.StreamResponse:
    site, number = site_named("ridgecast"), int(request.match_info["number"])
    assert site is not None  # noqa: S101 - it is in the list of sites
    story = story_by_number(site, number, request.app[_WORLD].seed)
    match request.match_info["kind"]:
        case "wav":
            return web.Response(body=podcast.sound(number), content_type="audio/wav")
        case "vtt":
            return web.Response(text=podcast.transcript(story), content_type="text/vtt")
        case _:
            return web.Response(text=podcast.chapters(story), content_type="application/json")


async def _home(request: web.Request) -> web.StreamResponse:
    site = _site(request)
    stories = stories_up_to(site, _moment(request), request.app[_WORLD].seed)
    rows = "".join(
        f'<li><a href="/{site.name}/notes/{story.number}">{html.escape(story.title)}</a> '
        f"<time>{story.at:%d %B}</time></li>"
        for story in stories
    )
    kind = CONTENT_TYPES[site.format].partition(";")[0]
    head = f'<link rel="alternate" type="{kind}" title="{html.escape(site.title)}" href="/{site.name}/feed">'
    return _page(
        site.title, f"<h1>{html.escape(site.title)}</h1><p>{html.escape(site.tagline)}</p><ul>{rows}</ul>", head
    )


def _article(story: Story) -> str:
    picture = f'<img src="/pictures/{story.page_picture}" alt="">' if story.page_picture else ""
    text = "".join(f"<p>{html.escape(part)}</p>" for part in story.paragraphs)
    return f"<article><h1>{html.escape(story.title)}</h1><p>{story.at:%d %B %Y} · {story.author}</p>{picture}{text}</article>"


async def _note(request: web.Request) -> web.StreamResponse:
    site = _site(request)
    story = story_by_number(site, int(request.match_info["number"]), request.app[_WORLD].seed)
    picture = f"{_base(request)}/pictures/{story.page_picture}" if story.page_picture else ""
    head = f'<meta property="og:title" content="{html.escape(story.title)}">'
    if site.name == "ridgefilms":
        here = quote(f"{_base(request)}{request.path}", safe="")
        head += f'<link rel="alternate" type="application/json+oembed" href="/oembed?url={here}">'
    if picture:
        head += (
            f'<meta property="og:image" content="{picture}"><meta property="og:image:width" content="1200">'
            f'<meta property="og:image:height" content="675">'
        )
    return _page(f"{story.title} · {site.title}", _article(story), head)


async def _oembed(request: web.Request) -> web.StreamResponse:
    """Return what to embed of a film's page (oEmbed 2.3)."""
    site, _, number = request.query.get("url", "").rstrip("/").rpartition("/notes/")
    name = site.rpartition("/")[2]
    if name != "ridgefilms" or not number.isdigit():
        raise web.HTTPNotFound(text="There is no film at this address.")
    frame = f'<iframe src="/player/{name}-{number}" width="640" height="360"></iframe><script>window.x=1</script>'
    return web.json_response({"version": "1.0", "type": "video", "html": frame, "width": 640, "height": 360})


async def _picture(request: web.Request) -> web.StreamResponse:
    kind, _, number = request.match_info["name"].removesuffix(".jpg").partition("-")
    body = draw(kind, int(number or 0))
    return web.Response(body=body, content_type="image/jpeg", headers={"Cache-Control": "public, max-age=86400"})


async def _pixel(_request: web.Request) -> web.StreamResponse:
    return web.Response(body=_PIXEL, content_type="image/gif")


def _fault_choice(site: Site, chosen: str) -> str:
    options = "".join(
        f'<option value="{name}"{" selected" if name == chosen else ""}>{html.escape(text)}</option>'
        for name, text in [("", "none"), *((name, text) for name, (text, _) in FAULTS.items())]
    )
    return (
        f'<form method="post" action="/control"><input type="hidden" name="site" value="{site.name}">'
        f'<select name="fault" aria-label="Fault of {html.escape(site.title)}">{options}</select> <button>Set</button></form>'
    )


def _hub_choice(world: World) -> str:
    options = "".join(
        f'<option value="{name}"{" selected" if name == world.hub.fault else ""}>{html.escape(text)}</option>'
        for name, text in [("", "none"), *HUB_FAULTS.items()]
    )
    subscribed = sum(map(len, world.hub.subscribers.values()))
    return (
        f'<h2>The hub</h2><p>{subscribed} subscribed, {world.hub.pushed} pushed, told of {len(world.hub.told)} feeds.</p><form method="post" action="/control">'
        f'<select name="hub" aria-label="Fault of the hub">{options}</select> <button>Set</button></form>'
    )


def _lingua_choice(world: World) -> str:
    options = "".join(
        f'<option value="{name}"{" selected" if name == world.lingua.fault else ""}>{html.escape(text)}</option>'
        for name, text in [("", "none"), *LINGUA_FAULTS.items()]
    )
    return (
        f"<h2>The language service</h2><p>Below /lingua/, key <code>{LINGUA_KEY}</code>. "
        f"{world.lingua.requests} requests, {sum(world.lingua.charged.values())} characters charged.</p>"
        f'<form method="post" action="/control"><select name="lingua" aria-label="Fault of the language service">{options}'
        "</select> <button>Set</button></form>"
    )


def _platform_choices(world: World) -> str:
    rows = "".join(
        f'<tr><td>{name}</td><td><code>{html.escape(key)}</code></td><td><form method="post" action="/control">'
        f'<input type="hidden" name="platform" value="{name}"><select name="trouble" aria-label="Fault of {name}">'
        + "".join(
            f'<option value="{fault}"{" selected" if world.platform_faults.get(name, "") == fault else ""}>{html.escape(text)}</option>'
            for fault, text in [("", "none"), *PLATFORM_FAULTS.items()]
        )
        + "</select> <button>Set</button></form></td></tr>"
        for name, key in PLATFORM_KEYS.items()
    )
    return f"<h2>Platforms</h2><table><tr><th>Below /api/<th>Key<th>Fault</tr>{rows}</table>"


def _layout_choice(world: World) -> str:
    other = 3 - world.layout
    return (
        f'<h2>The bulletin</h2><p><a href="/bulletin/">The observatory\'s bulletin</a> has no feed. It stands in layout {world.layout}.</p>'
        f'<form method="post" action="/control"><button name="layout" value="{other}">Move it to layout {other}</button></form>'
    )


async def _control(request: web.Request) -> web.StreamResponse:
    world = request.app[_WORLD]
    rows = "".join(
        f'<tr><td><a href="/{site.name}/">{html.escape(site.title)}</a></td>'
        f'<td><a href="/{site.name}/feed">{site.format}</a></td>'
        f"<td>{_fault_choice(site, world.faults.get(site.name, ''))}</td></tr>"
        for site in SITES
    )
    steps = "".join(
        f'<button name="hours" value="{hours}">{text}</button> '
        for hours, text in ((1, "an hour on"), (12, "half a day on"), (72, "three days on"))
    )
    return _page(
        "Stand-ins",
        f'<h1>The simulated world</h1><p><a href="/mail">Inbox</a> of the mail that was sent.</p>'
        f"<p>It is {world.now():%d %B %Y, %H:%M} there. New stories come as time passes.</p>"
        f'<form method="post" action="/control">{steps}<button name="hours" value="now">back to now</button></form>'
        f"<table><tr><th>Site<th>Feed<th>Fault</tr>{rows}</table>{_hub_choice(world)}{_lingua_choice(world)}{_layout_choice(world)}{_platform_choices(world)}",
    )


async def _set(request: web.Request) -> web.StreamResponse:
    world, form = request.app[_WORLD], await request.post()
    hours, site, fault = str(form.get("hours", "")), str(form.get("site", "")), str(form.get("fault", ""))
    if hours == "now":
        world.ahead = timedelta()
    elif hours:
        world.ahead += timedelta(hours=float(hours))
        await _publish(request.app, _base(request))
    if str(form.get("layout", "")) in {"1", "2"}:
        world.layout = int(str(form["layout"]))
    if str(form.get("platform", "")) in PLATFORM_KEYS:
        trouble = str(form.get("trouble", ""))
        world.platform_faults[str(form["platform"])] = trouble if trouble in PLATFORM_FAULTS else ""
    if "lingua" in form:
        world.lingua.fault = str(form["lingua"]) if form["lingua"] in LINGUA_FAULTS else ""
    if "hub" in form:
        world.hub.fault = str(form["hub"]) if form["hub"] in HUB_FAULTS else ""
    if site_named(site):
        world.faults[site] = fault if fault in FAULTS else ""
    raise web.HTTPSeeOther("/control")


def _topic(site: Site, base: str) -> str:
    return f"{base}/{site.name}/feed"


async def _hub(request: web.Request) -> web.StreamResponse:
    """Accept a subscription (WebSub 5.1).

    It is verified before the answer has been read, as small hubs may do.
    """
    form = await request.post()
    given = {
        name: str(form.get(f"hub.{name}", "")) for name in ("mode", "topic", "callback", "secret", "lease_seconds")
    }
    if given["mode"] == "publish" and "hub.url" in form:
        request.app[_WORLD].hub.told += [str(url) for url in form.getall("hub.url")]
        return web.Response(status=204)
    if given["mode"] not in {"subscribe", "unsubscribe"} or not given["callback"].startswith("http"):
        return web.Response(status=400, text="This hub begins and ends subscriptions only.")
    hub = request.app[_WORLD].hub
    wanted = (
        hub.unsubscribe(given["topic"], given["callback"])
        if given["mode"] == "unsubscribe"
        else hub.subscribe(given["topic"], given["callback"], given["secret"], given["lease_seconds"] or "864000")
    )
    task = asyncio.create_task(wanted)
    request.app[_TASKS].add(task)
    task.add_done_callback(request.app[_TASKS].discard)
    return web.Response(status=202)


async def _publish(app: web.Application, base: str) -> None:
    """Push every feed that somebody is subscribed to."""
    world = app[_WORLD]
    for site in SITES:
        if world.hub.subscribers.get(_topic(site, base)):
            body = write_feed(site, stories_up_to(site, world.now(), world.seed), base)
            await world.hub.publish(_topic(site, base), body, CONTENT_TYPES[site.format])


def _html(text: str) -> web.Response:
    return web.Response(text=text, content_type="text/html")


async def _bulletin(request: web.Request) -> web.StreamResponse:
    world, section = request.app[_WORLD], request.match_info.get("section", "")
    world.requests += 1
    if section and section not in bulletin.SECTIONS:
        raise web.HTTPNotFound(text="No such section.")
    page = int(request.query.get("page", "1"))
    return _html(bulletin.list_page(section, page, now=_moment(request), seed=world.seed, layout=world.layout))


async def _bulletin_app(_request: web.Request) -> web.StreamResponse:
    return web.Response(text=bulletin.APP, content_type="text/javascript")


async def _tonight(request: web.Request) -> web.StreamResponse:
    return web.json_response({"notes": bulletin.tonight(now=_moment(request), seed=request.app[_WORLD].seed)})


async def _bulletin_note(request: web.Request) -> web.StreamResponse:
    world = request.app[_WORLD]
    world.requests += 1
    number, part = int(request.match_info["number"]), int(request.query.get("part", "1"))
    return _html(bulletin.article_page(number, part, seed=world.seed, layout=world.layout))


async def _staff(_request: web.Request) -> web.StreamResponse:
    return _html(bulletin.staff_page())


async def _hostile(_request: web.Request) -> web.StreamResponse:
    return _html(bulletin.hostile_page())


async def _sitemap(request: web.Request) -> web.StreamResponse:
    body = bulletin.sitemap(_base(request), now=_moment(request), seed=request.app[_WORLD].seed)
    return web.Response(body=body, content_type="application/gzip")


async def _sitemap_index(request: web.Request) -> web.StreamResponse:
    return web.Response(
        text=f"<sitemapindex><sitemap><loc>{_base(request)}/bulletin/sitemap.xml.gz</loc></sitemap></sitemapindex>",
        content_type="application/xml",
    )


async def _basket(request: web.Request) -> web.StreamResponse:
    """Show what another site hands over: numbers with their pieces."""
    items = [item.rpartition(":") for item in request.query.get("add", "").split(",") if item]
    rows = "".join(f"<li>{html.escape(pieces)} × {html.escape(number)}</li>" for number, _, pieces in items)
    return _html(f"<h1>Glasswright’s basket</h1><ul>{rows}</ul>")


async def _shop(_request: web.Request) -> web.StreamResponse:
    return _html(bulletin.shop_list())


async def _good(request: web.Request) -> web.StreamResponse:
    return _html(bulletin.shop_page(int(request.match_info["number"])))


async def _robots(_request: web.Request) -> web.StreamResponse:
    return web.Response(text=bulletin.ROBOTS)


async def _mail(request: web.Request) -> web.StreamResponse:
    return _page("Inbox", f"<h1>Inbox</h1>{inbox_page(request.app[_WORLD].inbox)}")


async def _index(_request: web.Request) -> web.StreamResponse:
    raise web.HTTPFound("/control")


def _platforms(world: World) -> Platforms:
    made = Platforms(world.now, world.seed)
    made.faults = world.platform_faults
    return made


def make_app(world: World) -> web.Application:
    """Return the web application of a world."""
    app = web.Application(client_max_size=1 << 30)
    app[_WORLD] = world
    app[_TASKS] = set()
    app.add_routes(
        [
            web.get("/", _index),
            web.get("/control", _control),
            web.post("/control", _set),
            web.get("/mail", _mail),
            web.post("/hub", _hub),
            web.get("/pixel.gif", _pixel),
            web.get("/oembed", _oembed),
            web.get(r"/pictures/{name:[a-z]+-\d+\.jpg}", _picture),
            web.get("/robots.txt", _robots),
            web.get("/bulletin/", _bulletin),
            *_platforms(world).routes(),
            *world.lingua.routes(),
            *world.buckets.routes(),
            *Exchange().routes(),
            web.get("/bulletin/app.js", _bulletin_app),
            web.get("/bulletin/tonight.json", _tonight),
            web.get("/bulletin/staff/", _staff),
            web.get("/bulletin/hostile/", _hostile),
            web.get("/bulletin/sitemap.xml", _sitemap_index),
            web.get("/bulletin/sitemap.xml.gz", _sitemap),
            web.get("/bulletin/{section:[a-z]+}/", _bulletin),
            web.get(r"/bulletin/notes/{number:\d+}", _bulletin_note),
            web.get("/shop/", _shop),
            web.get("/basket", _basket),
            web.get(r"/shop/goods/{number:\d+}", _good),
            web.get("/ridgecast/feed", _episodes),
            web.get(r"/ridgecast/episodes/{number:\d+}.{kind:wav|vtt|chapters\.json}", _episode),
            web.get("/{site}/", _home),
            web.get("/{site}/feed", _feed),
            web.get(r"/{site}/notes/{number:\d+}", _note),
        ]
    )
    return app
