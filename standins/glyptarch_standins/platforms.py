"""Invented platforms with APIs: wire, films, shop, notes, questions, articles, plain ones.

Each has keys, pages and a limit, and can simulate faults: a wrong or expired key, a full quota, a repeated page,
half-broken answers, other encodings, and a newer API version.
"""

import base64
import hashlib
import html
import json
from collections.abc import Awaitable, Callable, Sequence
from datetime import datetime, timedelta
from urllib.parse import urlencode

from aiohttp import web

from glyptarch_standins.platform_records import (
    country_of,
    film,
    is_sold,
    licence_of,
    most_relevant,
    plays_of,
    priced_in,
    product,
    question,
    seconds_of,
    short_note,
    stamp,
    title_of,
    votes_of,
    with_words,
)
from glyptarch_standins.stories import SITES, UNLISTED, Story, site_named, stories_up_to

__all__ = ["PLATFORM_FAULTS", "PLATFORM_KEYS", "Platforms"]

PLATFORM_FAULTS = {
    "expired": "the key has expired",
    "not_enabled": "the key is not meant for this",
    "quota": "the limit is reached",
    "slow_down": "asks to wait a minute",
    "repeats": "every page is the first one",
    "half_broken": "fields are missing, null or of other types",
    "encoding": "answers in Latin letters without saying so",
    "new_version": "a newer API: the list has another name",
    "price_slip": "the shop writes a tenth of each price by mistake",
    "down": "has trouble on its side",
}
PLATFORM_KEYS = {
    "wire": "wire-key-of-the-vale",
    "films": "films-token-of-the-vale",
    "shop": "shop-key-of-the-vale",
    "notes": "notes-client-of-the-vale",
    "questions": "board-key-of-the-vale",
    "articles": "directory-key-of-the-vale",
    "tides": "tides-key-of-the-vale",
}
_HEADERS = {"wire": "X-Wire-Key", "shop": "X-Shop-Key", "questions": "X-Board-Key", "articles": "X-Directory-Key"}
_HEADERS |= {"tides": "X-Tides-Key"}
_OPEN = ("harbour", "almanac")
_LISTS = {"wire": "stories", "films": "films", "shop": "products", "questions": "questions", "articles": "articles"}
_LANGUAGE = "en"
# In seconds: under 4 minutes, 4 to 20, longer.
_LENGTHS = {"short": (0, 240), "medium": (240, 1200), "long": (1200, 1 << 30)}
_A_PAGE = 10
_LIMIT = 1000


class Platforms:
    """The platforms of one world.

    ``now`` returns its time; ``faults`` and ``asked`` are by platform.
    """

    def __init__(self, now: Callable[[], datetime], seed: int) -> None:
        self._now, self._seed = now, seed
        self.faults: dict[str, str] = {}
        self.asked: dict[str, int] = {}
        self._codes: dict[str, dict[str, str]] = {}
        self._access: dict[str, datetime] = {}
        self._refresh: set[str] = set()
        self._given = 0

    def routes(self) -> list[web.RouteDef]:
        """Return the addresses of all platforms."""
        made = {
            "/api/wire/me": self._checked("wire", self._me),
            "/api/wire/latest": self._checked("wire", self._wire),
            "/api/wire/archive": self._checked("wire", self._wire),
            "/api/films/v1/me": self._checked("films", self._me),
            "/api/films/v1/films": self._checked("films", self._films),
            "/api/shop/me": self._checked("shop", self._me),
            "/api/shop/products": self._checked("shop", self._shop),
            "/api/notes/me": self._checked("notes", self._me),
            "/api/notes/{kind:people|tags}/{name}/notes": self._checked("notes", self._notes),
            "/api/questions/me": self._checked("questions", self._me),
            "/api/questions/questions": self._checked("questions", self._questions),
            "/api/articles/me": self._checked("articles", self._me),
            "/api/articles/articles": self._checked("articles", self._articles),
            "/api/tides/v2/{place}": self._checked("tides", self._tides),
            "/api/harbour/log": self._checked("harbour", self._harbour),
            "/api/almanac/days": self._checked("almanac", self._almanac),
        }
        plain = [
            web.get("/api/notes/oauth/authorize", self._authorize),
            web.post("/api/notes/oauth/token", self._token),
        ]
        plain.append(web.get(r"/player/{name:[a-z]+-\d+}", _player))
        return [*plain, *(web.get(path, handler) for path, handler in made.items())]

    async def _authorize(self, request: web.Request) -> web.StreamResponse:
        """Ask a member whether a program may read (OAuth 2, 4.1.1).

        Pressing the button is the answer.
        """
        query = dict(request.query)
        if query.get("client_id") != PLATFORM_KEYS["notes"] or query.get("code_challenge_method") != "S256":
            return _refusal(400, "invalid_request", "This program is not known here.")
        if query.pop("allow", "") != "1":
            fields = "".join(
                f'<input type="hidden" name="{html.escape(name)}" value="{html.escape(value)}">'
                for name, value in query.items()
            )
            text = f"<h1>Notes network</h1><p>Dark Meadow Almanac wants to read notes.</p><form>{fields}<button name='allow' value='1'>Allow</button></form>"
            return web.Response(text=text, content_type="text/html")
        code = f"code-{len(self._codes)}"
        self._codes[code] = query
        raise web.HTTPFound(f"{query['redirect_uri']}?{urlencode({'code': code, 'state': query.get('state', '')})}")

    async def _token(self, request: web.Request) -> web.StreamResponse:
        """Return tokens for a code or a refresh token, each valid once.

        OAuth 2, 4.1.3 and 6; RFC 7636, 4.6.
        """
        form = {name: str(value) for name, value in (await request.post()).items()}
        if form.get("grant_type") == "refresh_token":
            known = form.get("refresh_token", "") in self._refresh
            self._refresh.discard(form.get("refresh_token", ""))
        else:
            asked = self._codes.pop(form.get("code", ""), {})
            digest = hashlib.sha256(form.get("code_verifier", "").encode()).digest()
            challenge = base64.urlsafe_b64encode(digest).rstrip(b"=").decode()
            known = asked.get("code_challenge") == challenge and asked.get("redirect_uri") == form.get("redirect_uri")
        if not known or self.faults.get("notes") == "expired":
            return _refusal(400, "invalid_grant", "This is not good any more.")
        self._given += 1
        access, refresh = f"notes-access-{self._given}", f"notes-refresh-{self._given}"
        self._access[access] = self._now() + timedelta(hours=1)
        self._refresh.add(refresh)
        return web.json_response(
            {"access_token": access, "refresh_token": refresh, "expires_in": 3600, "token_type": "Bearer"}
        )

    def _is_known(self, name: str, given: str) -> str:
        """Return the error of a key.

        Empty for a known key.
        """
        if name != "notes":
            return "" if name in _OPEN or given == PLATFORM_KEYS[name] else "no_such_key"
        ends = self._access.get(given)
        return "no_such_key" if ends is None else "" if self._now() < ends else "key_expired"

    def _checked(
        self, name: str, handler: Callable[[web.Request], web.Response]
    ) -> Callable[[web.Request], Awaitable[web.Response]]:
        """Return a handler that first checks key, quota and simulated fault."""

        async def answer(request: web.Request) -> web.Response:
            self.asked[name] = self.asked.get(name, 0) + 1
            fault = self.faults.get(name, "")
            left = max(0, _LIMIT - self.asked[name])
            limits = {"RateLimit-Limit": str(_LIMIT), "RateLimit-Remaining": str(left), "RateLimit-Reset": "3600"}
            given = request.headers.get(_HEADERS.get(name, "Authorization"), "").removeprefix("Bearer ")
            wrong = self._is_known(name, given)
            if wrong:
                return _refusal(401, wrong, "This key is not known here.")
            refusals = {
                "expired": (401, "key_expired", "This key has expired. Make a new one."),
                "not_enabled": (403, "not_enabled", "This key may not be used for reading."),
                "quota": (429, "quota_reached", "The requests of today are used up."),
                "slow_down": (429, "slow_down", "Too many at once."),
                "down": (503, "trouble", "We are mending it."),
            }
            if fault in refusals:
                response = _refusal(*refusals[fault])
                if response.status in {429, 503}:
                    response.headers["Retry-After"] = "3600" if fault == "quota" else "60"
                return response
            response = handler(request)
            response.headers.update(limits)
            return _spoiled(response, fault, _LISTS.get(name, ""))

        return answer

    def _stories(self, *names: str, most: int = 60) -> list[Story]:
        sites = [site for site in (*SITES, *UNLISTED) if site.name in names]
        found = [one for site in sites for one in stories_up_to(site, self._now(), self._seed, count=most)]
        return sorted((one for one in found if one.repeat_of is None), key=lambda one: one.at, reverse=True)

    def _page_of(self, request: web.Request, name: str, stories: Sequence[Story]) -> tuple[list[Story], int, int]:
        """Return the stories of a page, its number, and the number of pages."""
        number = 1 if self.faults.get(name) == "repeats" else int(request.query.get("page", "1"))
        begin = (number - 1) * _A_PAGE
        return list(stories[begin : begin + _A_PAGE]), number, -(-len(stories) // _A_PAGE)

    @staticmethod
    def _me(_request: web.Request) -> web.Response:
        return web.json_response({"name": "Dark Meadow Almanac", "plan": "club"})

    def _wire(self, request: web.Request) -> web.Response:
        stories = with_words(self._stories("skywire", "listings", "meadowlark"), request.query.get("q", ""))
        if topic := request.query.get("topic", "").lower():
            stories = [one for one in stories if topic in " ".join(one.categories).lower()]
        if outlet := request.query.get("outlet", "").lower():
            stories = [one for one in stories if outlet in one.site]
        if country := request.query.get("country", ""):
            stories = [one for one in stories if country_of(one) == country]
        if request.query.get("lang", _LANGUAGE) != _LANGUAGE:
            stories = []
        now = self._now()
        if request.path.endswith("latest"):
            stories = [one for one in stories if now - one.at <= timedelta(days=1)]
        else:
            begin, end = request.query.get("from", ""), request.query.get("to", "9999")
            stories = [one for one in stories if begin <= f"{one.at:%Y-%m-%d}" <= end]
        page, number, pages = self._page_of(request, "wire", stories)
        rows = [
            {
                "id": f"w{one.site}-{one.number}",
                "headline": one.title,
                "standfirst": one.paragraphs[0],
                "text": "".join(f"<p>{part}</p>" for part in one.paragraphs),
                "byline": one.author,
                "topics": list(one.categories),
                "country": country_of(one),
                "lang": _LANGUAGE,
                "at": stamp(one.at),
                "outlet": title_of(one.site),
                "href": f"/{one.site}/notes/{one.number}",
                "photo": {"href": f"/pictures/{one.picture}", "w": 1200, "h": 675} if one.picture else None,
            }
            for one in page
        ]
        return web.json_response({"stories": rows, "page": number, "pages": pages, "total": len(stories)})

    def _films(self, request: web.Request) -> web.Response:
        stories = with_words(self._stories("ridgefilms"), request.query.get("words", ""))
        if channel := request.query.get("channel", "").lower():
            stories = [one for one in stories if one.site == channel]
        if since := request.query.get("since", ""):
            stories = [one for one in stories if f"{one.at:%Y-%m-%d}" > since]
        if playlist := request.query.get("playlist", "").lower():
            stories = [one for one in stories if playlist in map(str.lower, one.categories)]
        if licence := request.query.get("licence", "").lower():
            stories = [one for one in stories if licence_of(one) == licence]
        if length := request.query.get("length", ""):
            least_seconds, most_seconds = _LENGTHS.get(length, (0, 0))
            stories = [one for one in stories if least_seconds <= seconds_of(one) < most_seconds]
        if request.query.get("lang", _LANGUAGE) != _LANGUAGE:
            stories = []
        least = int(request.query.get("min_views", "0"))
        stories = [one for one in stories if plays_of(one) >= least]
        if request.query.get("order") == "most_seen":
            stories.sort(key=plays_of, reverse=True)
        elif request.query.get("order") == "relevant":
            stories = most_relevant(stories, request.query.get("words", ""))
        begin = 0 if self.faults.get("films") == "repeats" else int(request.query.get("after", "c0").removeprefix("c"))
        page = stories[begin : begin + _A_PAGE]
        following = f"c{begin + _A_PAGE}" if begin + _A_PAGE < len(stories) else None
        if self.faults.get("films") == "repeats":
            following = f"c{_A_PAGE}"
        return web.json_response({"films": [film(one) for one in page], "next": following, "found": len(stories)})

    def _shop(self, request: web.Request) -> web.Response:
        stories = with_words(self._stories("glasswright", most=40), request.query.get("words", ""))
        wanted = [one for one in request.query.get("numbers", "").split(",") if one]
        now = datetime.fromisoformat(request.query["at"]) if "at" in request.query else self._now()
        stories = [one for one in stories if one.at <= now]
        if request.query.get("order") == "relevant":
            stories = most_relevant(stories, request.query.get("words", ""))
        products = [product(one, now) for one in stories if is_sold(one, now)]
        if self.faults.get("shop") == "price_slip":
            products = [{**one, "price": {**one["price"], "amount": one["price"]["amount"] / 10}} for one in products]
        if wanted:
            products = [product for product in products if product["number"] in wanted]
        if category := request.query.get("category", "").lower():
            products = [product for product in products if product["category"].lower() == category]
        products = [sold for product in products if (sold := priced_in(product, request.query.get("region", "")))]
        order = request.query.get("order", "")
        if order == "cheapest":
            products.sort(key=lambda product: product["price"]["amount"])
        elif order == "best_rated":
            products.sort(key=lambda product: product["stars"], reverse=True)
        offset = 0 if self.faults.get("shop") == "repeats" else int(request.query.get("offset", "0"))
        limit = min(int(request.query.get("limit", "20")), 20)
        page = products[offset : offset + limit]
        total = len(products) + 1000 if self.faults.get("shop") == "repeats" else len(products)
        return web.json_response({"products": page, "total": total, "offset": offset})

    def _notes(self, request: web.Request) -> web.Response:
        name = request.match_info["name"].lower()
        stories = self._stories("meadowlark", "observatory", "skywire", most=40)
        if request.match_info["kind"] == "tags":
            stories = [one for one in stories if any(name in category.lower() for category in one.categories)]
        elif site_named(name):
            stories = [one for one in stories if one.site == name]
        else:
            return _refusal(404, "no_such_person", "Nobody has this name here.")
        page, number, pages = self._page_of(request, "notes", stories)
        response = web.json_response([short_note(one) for one in page])
        if number < pages or self.faults.get("notes") == "repeats":
            response.headers["Link"] = f'<{request.path}?page={number + 1}>; rel="next"'
        return response

    def _questions(self, request: web.Request) -> web.Response:
        stories = with_words(self._stories("glasswright", "meadowlark", most=40), request.query.get("words", ""))
        if request.query.get("order") == "most_votes":
            stories.sort(key=votes_of, reverse=True)
        page, number, pages = self._page_of(request, "questions", stories)
        more = number < pages or self.faults.get("questions") == "repeats"
        return web.json_response({"questions": [question(one) for one in page], "has_more": more})

    def _articles(self, request: web.Request) -> web.Response:
        stories = with_words(self._stories("observatory", most=40), request.query.get("words", ""))
        if category := request.query.get("category", "").lower():
            stories = [one for one in stories if category in map(str.lower, one.categories[:1])]
        page, _, pages = self._page_of(request, "articles", stories)
        rows = [
            {
                "id": one.number,
                "title": one.title,
                "html": "".join(f"<p>{part}</p>" for part in one.paragraphs),
                "author": {"name": one.author, "about": "writes from the ridge.", "site": "/observatory/"},
                "category": one.categories[0] if one.categories else "",
                "published": f"{one.at:%d %B %Y}",
                "words": sum(len(part.split()) for part in one.paragraphs),
                "link": f"/observatory/notes/{one.number}",
            }
            for one in page
        ]
        pages = pages + 1000 if self.faults.get("articles") == "repeats" else pages
        return web.json_response({"articles": rows, "pages": pages})

    def _tides(self, request: web.Request) -> web.Response:
        """One API with a key: nested, with a cursor and times in seconds."""
        stories = self._stories("listings", most=30)
        begin = int(request.query.get("cur", "") or "0")
        rows = [
            {
                "meta": {"uuid": f"t-{one.number}", "when": int(one.at.timestamp())},
                "texts": [{"kind": "head", "value": one.title}, {"kind": "body", "value": "\n\n".join(one.paragraphs)}],
                "links": {"self": {"href": f"/listings/notes/{one.number}"}},
            }
            for one in stories[begin : begin + _A_PAGE]
        ]
        following = str(begin + _A_PAGE) if begin + _A_PAGE < len(stories) else ""
        place = request.match_info["place"]
        return web.json_response(
            {"data": {"place": place, "entries": rows}, "paging": {"cursors": {"next": following}}}
        )

    def _harbour(self, request: web.Request) -> web.Response:
        """Answer for a platform without a key: an array at the top, paged by offset."""
        stories = self._stories("meadowlark", most=25)
        begin = int(request.query.get("skip", "0"))
        return web.json_response(
            [
                {
                    "nr": one.number,
                    "subject": one.title,
                    "content": "\n\n".join(one.paragraphs),
                    "written": f"{one.at:%d.%m.%Y %H:%M}",
                    "who": {"first": one.author.partition(" ")[0], "last": one.author.partition(" ")[2]},
                    "labels": ", ".join(one.categories),
                    "permalink": f"/meadowlark/notes/{one.number}",
                }
                for one in stories[begin : begin + _A_PAGE]
            ]
        )

    def _almanac(self, request: web.Request) -> web.Response:
        """One whose pages are named by the Link header."""
        stories = self._stories("observatory", most=30)
        page, number, pages = self._page_of(request, "almanac", stories)
        rows = [
            {"id": one.number, "name": one.title, "body_html": "".join(f"<p>{part}</p>" for part in one.paragraphs),
             "images": [{"src": f"/pictures/{one.picture}"}] if one.picture else [], "date": stamp(one.at),
             "url": f"/observatory/notes/{one.number}"}
            for one in page
        ]  # fmt: skip
        response = web.json_response({"result": {"days": rows}})
        if number < pages:
            response.headers["Link"] = (
                f'</api/almanac/days?page={number + 1}>; rel="next", </api/almanac/days>; rel="first"'
            )
        return response


async def _player(request: web.Request) -> web.StreamResponse:
    """Return a film player for a frame."""
    name = html.escape(request.match_info["name"])
    style = "margin:0;display:grid;place-items:center;height:100vh;background:#101820;color:#dfe;font:20px sans-serif"
    return web.Response(text=f"<body style='{style}'>The film {name} plays here.</body>", content_type="text/html")


def _refusal(status: int, code: str, message: str) -> web.Response:
    return web.json_response({"error": {"code": code, "message": message}}, status=status)


def _spoiled(response: web.Response, fault: str, name: str) -> web.Response:
    """Return an answer with a simulated fault."""
    text = response.text or ""
    if fault == "half_broken" and name:
        data = json.loads(text)
        for number, row in enumerate(data.get(name, [])):
            for place, field in enumerate(list(row)):
                row[field] = [row[field], None, 7, {"odd": True}, row[field]][(number + place) % 5]
        data[name] = [None, "row", *data.get(name, [])]
        response.text = json.dumps(data)
    elif fault == "encoding":
        text = text.replace("the ", "thé ")
        response.body = json.dumps(json.loads(text), ensure_ascii=False).encode("latin-1", "replace")
    elif fault == "new_version":
        response.text = json.dumps({"version": 3, "results": json.loads(text)})
    return response
