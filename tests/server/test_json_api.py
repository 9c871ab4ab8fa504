"""JSON APIs of all kinds over HTTP.

Bodies, ways of signing in, pages named in the answer, unchanged answers.
"""

import base64
import json
from typing import Any
from unittest.mock import patch

from aiohttp import web
from glyptarch_server import wiring
from glyptarch_server.items.models import Item
from glyptarch_server.platforms.models import Connection
from glyptarch_server.sources.models import Reading, Source
from glyptarch_server.wiring import FetchPortal

from tests.served import served
from tests.server.test_api import ApiCase

FIELDS = {"id": "id", "title": "title", "link": "url", "price": "price"}
SECRET = "moon-and-stars"  # noqa: S105


def rows(*numbers: int) -> list[dict[str, Any]]:
    return [{"id": number, "title": f"Ring {number}", "url": f"/rings/{number}"} for number in numbers]


class Api:
    """An API with what real ones have. It remembers what it was asked."""

    def __init__(self) -> None:
        self.asked: list[web.Request] = []
        self.bodies: list[Any] = []
        self.tokens = 0
        self.refuses_tokens = False
        self.broken = False
        self.app = web.Application()
        self.app.add_routes(
            [
                web.post("/search", self.search),
                web.get("/keyed", self.keyed),
                web.post("/token", self.token),
                web.get("/open", self.open),
                web.get("/paged", self.paged),
                web.get("/tagged", self.tagged),
            ]
        )

    async def search(self, request: web.Request) -> web.Response:
        self.asked.append(request)
        self.bodies.append(await request.json())
        expected = base64.b64encode(f"mira:{SECRET}".encode()).decode()
        if request.headers.get("Authorization") != f"Basic {expected}":
            return web.json_response({"error": "who"}, status=401)
        page = self.bodies[-1]["page"]
        return web.json_response({"rows": rows(page * 2, page * 2 + 1) if page < 3 else []})

    async def keyed(self, request: web.Request) -> web.Response:
        self.asked.append(request)
        if self.broken or request.query.get("api_key") != SECRET:
            return web.json_response({}, status=500)
        return web.json_response(rows(1))

    async def token(self, request: web.Request) -> web.Response:
        form = await request.post()
        expected = base64.b64encode(f"desk:{SECRET}".encode()).decode()
        right = (
            request.headers.get("Authorization") == f"Basic {expected}" and form["grant_type"] == "client_credentials"
        )
        if self.refuses_tokens or not right:
            return web.json_response({"error": "invalid_client"}, status=401)
        self.tokens += 1
        return web.json_response({"access_token": f"t{self.tokens}", "expires_in": 3600})

    async def open(self, request: web.Request) -> web.Response:
        if request.headers.get("Authorization") != f"Bearer t{self.tokens}":
            return web.json_response({}, status=401)
        return web.json_response(rows(1))

    async def paged(self, request: web.Request) -> web.Response:
        self.asked.append(request)
        page = int(request.query.get("page", "1"))
        following = {1: "/paged?page=2", 2: "http://elsewhere.example/paged?page=3"}[page]
        return web.json_response({"rows": rows(page), "next": following})

    async def tagged(self, request: web.Request) -> web.Response:
        self.asked.append(request)
        if request.headers.get("If-None-Match") == '"one"':
            return web.Response(status=304)
        return web.json_response(rows(1), headers={"ETag": '"one"'})


class JsonApis(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.api = Api()
        serving = served(self.api.app)
        self.host = serving.__enter__()
        self.addCleanup(serving.__exit__, None, None, None)
        portal = FetchPortal(allowed=frozenset({self.host}))
        self.addCleanup(portal.close)
        patched = patch.object(wiring, "fetcher", return_value=portal)
        patched.start()
        self.addCleanup(patched.stop)

    def ask(self, method: str, path: str, status: int = 200, **body: Any) -> Any:  # noqa: ANN401
        answer = self.call(self.editor, method, f"/blogs/meadow{path}", body)
        self.assertEqual(answer.status_code, status, answer.content[:600])
        return answer.json()

    def made(self, platform: str, path: str, fields: dict[str, str] | None = None, **parameters: Any) -> Source:  # noqa: ANN401
        connection = ""
        if fields:
            address = f"http://{self.host}/"
            given = {"platform": platform, "name": platform, "address": address, "fields": fields}
            connection = self.ask("POST", "/connections", **given)["key"]
        asked = {"address": f"http://{self.host}{path}", "fields": FIELDS, **parameters}
        given = {"platform": platform, "title": "Rings", "connection": connection, "parameters": asked}
        return Source.objects.get(key=self.ask("POST", "/platform-sources", **given)["key"])

    def read(self, source: Source) -> Any:  # noqa: ANN401
        return self.ask("POST", f"/sources/{source.key}/read")

    def found(self) -> list[str]:
        return list(Item.objects.filter(source__ask_row__isnull=False).order_by("pk").values_list("title", flat=True))

    def test_a_body_is_posted_with_its_variables_and_a_user_signs_in(self) -> None:
        body = '{"q": "{words}", "page": {page}}'
        fields = {"user": "mira", "password": SECRET}
        source = self.made("json_basic", "/search", fields, body=body, paging="page", list="rows")
        self.assertEqual(self.read(source)["error"], "")
        self.assertEqual(self.api.bodies, [{"q": "", "page": page} for page in (1, 2, 3)])
        self.assertEqual(self.found(), ["Ring 2", "Ring 3", "Ring 4", "Ring 5"])

    def test_a_key_in_the_address_is_sent_and_shown_nowhere(self) -> None:
        source = self.made("json_query", "/keyed?limit=9", {"parameter": "api_key", "key": SECRET})
        self.assertEqual((self.read(source)["error"], self.found()), ("", ["Ring 1"]))
        self.assertEqual(dict(self.api.asked[-1].query), {"limit": "9", "api_key": SECRET})
        self.api.broken = True
        self.assertIn("/keyed", self.read(source)["detail"])
        shown = [
            self.call(self.editor, "GET", f"/blogs/meadow/{path}").content.decode()
            for path in ("sources", f"sources/{source.key}", "connections", f"sources/{source.key}/asks-yaml")
        ]
        told = list(Reading.objects.values_list("detail", flat=True)) + list(
            Item.objects.values_list("link", flat=True)
        )
        self.assertNotIn(SECRET, json.dumps([*shown, *told]))
        self.assertNotIn(SECRET, Connection.objects.get().sealed)

    def test_the_program_signs_in_by_itself_and_once_for_many_requests(self) -> None:
        fields = {"client": "desk", "secret": SECRET, "token_address": f"http://{self.host}/token"}
        source = self.made("json_client", "/open", fields)
        for _ in range(3):
            self.assertEqual(self.read(source)["error"], "")
        self.assertEqual((self.api.tokens, self.found()), (1, ["Ring 1"]))

    def test_a_client_that_is_not_known_is_told_what_to_do(self) -> None:
        self.api.refuses_tokens = True
        fields = {"client": "desk", "secret": SECRET, "token_address": f"http://{self.host}/token"}
        source = self.made("json_client", "/open", fields)
        self.assertIn("enter them again", self.read(source)["detail"])

    def test_the_next_page_may_be_named_by_its_address_at_the_same_host_only(self) -> None:
        source = self.made("json", "/paged", paging="address", next="next", list="rows")
        self.assertEqual((self.read(source)["error"], self.found()), ("", ["Ring 1", "Ring 2"]))
        self.assertEqual([request.query_string for request in self.api.asked], ["", "page=2"])

    def test_what_has_not_changed_is_not_sent_again(self) -> None:
        source = self.made("json", "/tagged")
        self.read(source)
        again = self.read(source)
        self.assertEqual((again["not_modified"], again["error"]), (True, ""))
        self.assertEqual([request.headers.get("If-None-Match") for request in self.api.asked], [None, '"one"'])
        asks = {"connection": "", "parameters": {"address": f"http://{self.host}/tagged?more=1", "fields": FIELDS}}
        self.ask("PUT", f"/sources/{source.key}/asks", **asks)
        self.read(source)
        self.assertIsNone(self.api.asked[-1].headers.get("If-None-Match"))
