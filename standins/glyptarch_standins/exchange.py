"""An exchange of used gear whose API answers in the ways that real JSON APIs do.

Each path has one peculiarity. Prefix all with ``/exchange``.
"""

import base64
from typing import Any

from aiohttp import web

__all__ = ["SECRET", "Exchange"]

SECRET = "moon-and-stars"  # noqa: S105 - of an invented service on loopback
_USER = "mira"
_PROGRAM = "desk"
_PAGES = 3
_PRICES = ("12,99", "$12.99", "1.299,00 €", "CHF 1'299.50", "free", "from 20 to 30", "-5", "1e400")
_ELSEWHERE = "http://elsewhere.example"


def _rows(*numbers: int) -> list[dict[str, Any]]:
    return [{"id": number, "title": f"Ring {number}", "url": f"/rings/{number}"} for number in numbers]


def _basic(user: str) -> str:
    return f"Basic {base64.b64encode(f'{user}:{SECRET}'.encode()).decode()}"


class Exchange:
    """The API, which remembers what it was asked.

    ``broken`` and ``refuses_tokens`` make it fail.
    """

    def __init__(self) -> None:
        self.asked: list[web.Request] = []
        self.bodies: list[Any] = []
        self.tokens = 0
        self.refuses_tokens = False
        self.broken = False
        self._broke_off = False

    def routes(self) -> list[web.RouteDef]:
        """Return its routes."""
        return [
            web.post("/exchange/search", self._search),
            web.get("/exchange/keyed", self._keyed),
            web.post("/exchange/token", self._token),
            web.get("/exchange/open", self._open),
            web.get("/exchange/paged", self._paged),
            web.get("/exchange/linked", self._linked),
            web.get("/exchange/tagged", self._tagged),
            web.get("/exchange/prices", self._prices),
            web.get("/exchange/limited", self._limited),
        ]

    async def _search(self, request: web.Request) -> web.Response:
        """Want a body of JSON with ``page``, and a user with a password."""
        self.asked.append(request)
        self.bodies.append(await request.json())
        if request.headers.get("Authorization") != _basic(_USER):
            return web.json_response({"error": "who"}, status=401)
        page = self.bodies[-1]["page"]
        return web.json_response({"rows": _rows(page * 2, page * 2 + 1) if page < _PAGES else []})

    async def _keyed(self, request: web.Request) -> web.Response:
        """Want the key in the query."""
        self.asked.append(request)
        if self.broken or request.query.get("api_key") != SECRET:
            return web.json_response({}, status=500)
        return web.json_response(_rows(1))

    async def _token(self, request: web.Request) -> web.Response:
        """Answer a program with its token: OAuth 2, client credentials (RFC 6749, 4.4)."""
        form = await request.post()
        known = request.headers.get("Authorization") == _basic(_PROGRAM)
        if self.refuses_tokens or not known or form["grant_type"] != "client_credentials":
            return web.json_response({"error": "invalid_client"}, status=401)
        self.tokens += 1
        return web.json_response({"access_token": f"t{self.tokens}", "expires_in": 3600})

    async def _open(self, request: web.Request) -> web.Response:
        """Open to the program that has the latest token."""
        if request.headers.get("Authorization") != f"Bearer t{self.tokens}":
            return web.json_response({}, status=401)
        return web.json_response(_rows(1))

    async def _paged(self, request: web.Request) -> web.Response:
        """Name the next page by its address. The last one lies at another host."""
        self.asked.append(request)
        page = int(request.query.get("page", "1"))
        following = {1: "/exchange/paged?page=2", 2: f"{_ELSEWHERE}/exchange/paged?page=3"}[page]
        return web.json_response({"rows": _rows(page), "next": following})

    async def _linked(self, request: web.Request) -> web.Response:
        """Name the next page in the second of two ``Link`` headers (RFC 8288)."""
        page = int(request.query.get("page", "1"))
        answer = web.json_response(_rows(page))
        answer.headers.add("Link", '</exchange/licence>; rel="license"')
        if page < _PAGES:
            answer.headers.add("Link", f'</exchange/linked?page={page + 1}>; title="more; of, it"; rel="next"')
        return answer

    async def _tagged(self, request: web.Request) -> web.Response:
        """Answer 304 where nothing has changed (RFC 9110, 13.1.2)."""
        self.asked.append(request)
        if request.headers.get("If-None-Match") == '"one"':
            return web.Response(status=304)
        return web.json_response(_rows(1), headers={"ETag": '"one"'})

    async def _prices(self, _request: web.Request) -> web.Response:
        """Write prices as people do, some of them none."""
        rows = _rows(*range(1, len(_PRICES) + 1))
        return web.json_response([row | {"price": price} for row, price in zip(rows, _PRICES, strict=True)])

    async def _limited(self, request: web.Request) -> web.Response:
        """Refuse the second page once (RFC 6585, 4), in the middle of a reading."""
        page = int(request.query.get("page", "1"))
        if page > 1 and not self._broke_off:
            self._broke_off = True
            return web.json_response({"error": "not so fast"}, status=429, headers={"Retry-After": "1"})
        return web.json_response(_rows(page * 2, page * 2 + 1) if page <= _PAGES else [])
