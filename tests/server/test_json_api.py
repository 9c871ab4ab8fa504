"""JSON APIs of all kinds over HTTP.

Bodies, ways of signing in, pages named in the answer, unchanged answers.
"""

import json
from typing import Any
from unittest.mock import patch

from aiohttp import web
from glyptarch_server import wiring
from glyptarch_server.items.models import Item
from glyptarch_server.platforms.models import Connection
from glyptarch_server.sources.models import Reading, Source
from glyptarch_server.wiring import FetchPortal
from glyptarch_standins.exchange import SECRET, Exchange

from tests.served import served
from tests.server.test_api import ApiCase

FIELDS = {"id": "id", "title": "title", "link": "url", "price": "price"}


class JsonApis(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.api, app = Exchange(), web.Application()
        app.add_routes(self.api.routes())
        serving = served(app)
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
        source = self.made("json_basic", "/exchange/search", fields, body=body, paging="page", list="rows")
        self.assertEqual(self.read(source)["error"], "")
        self.assertEqual(self.api.bodies, [{"q": "", "page": page} for page in (1, 2, 3)])
        self.assertEqual(self.found(), ["Ring 2", "Ring 3", "Ring 4", "Ring 5"])

    def test_a_key_in_the_address_is_sent_and_shown_nowhere(self) -> None:
        source = self.made("json_query", "/exchange/keyed?limit=9", {"parameter": "api_key", "key": SECRET})
        self.assertEqual((self.read(source)["error"], self.found()), ("", ["Ring 1"]))
        self.assertEqual(dict(self.api.asked[-1].query), {"limit": "9", "api_key": SECRET})
        self.api.broken = True
        self.assertIn("/exchange/keyed", self.read(source)["detail"])
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
        fields = {"client": "desk", "secret": SECRET, "token_address": f"http://{self.host}/exchange/token"}
        source = self.made("json_client", "/exchange/open", fields)
        for _ in range(3):
            self.assertEqual(self.read(source)["error"], "")
        self.assertEqual((self.api.tokens, self.found()), (1, ["Ring 1"]))

    def test_a_client_that_is_not_known_is_told_what_to_do(self) -> None:
        self.api.refuses_tokens = True
        fields = {"client": "desk", "secret": SECRET, "token_address": f"http://{self.host}/exchange/token"}
        source = self.made("json_client", "/exchange/open", fields)
        self.assertIn("enter them again", self.read(source)["detail"])

    def test_the_next_page_may_be_named_by_its_address_at_the_same_host_only(self) -> None:
        source = self.made("json", "/exchange/paged", paging="address", next="next", list="rows")
        self.assertEqual((self.read(source)["error"], self.found()), ("", ["Ring 1", "Ring 2"]))
        self.assertEqual([request.query_string for request in self.api.asked], ["", "page=2"])

    def test_what_has_not_changed_is_not_sent_again(self) -> None:
        source = self.made("json", "/exchange/tagged")
        self.read(source)
        again = self.read(source)
        self.assertEqual((again["not_modified"], again["error"]), (True, ""))
        self.assertEqual([request.headers.get("If-None-Match") for request in self.api.asked], [None, '"one"'])
        asks = {
            "connection": "",
            "parameters": {"address": f"http://{self.host}/exchange/tagged?more=1", "fields": FIELDS},
        }
        self.ask("PUT", f"/sources/{source.key}/asks", **asks)
        self.read(source)
        self.assertIsNone(self.api.asked[-1].headers.get("If-None-Match"))

    def test_the_next_page_may_stand_in_the_second_of_two_headers(self) -> None:
        source = self.made("json", "/exchange/linked", paging="link")
        self.assertEqual((self.read(source)["error"], self.found()), ("", ["Ring 1", "Ring 2", "Ring 3"]))

    def test_prices_are_read_as_people_write_them_or_not_at_all(self) -> None:
        source = self.made("json", "/exchange/prices")
        self.assertEqual(self.read(source)["error"], "")
        prices = Item.objects.filter(source=source).order_by("pk").values_list("facts", flat=True)
        self.assertEqual([facts.get("price") for facts in prices], [12.99, 12.99, 1299.0, 1299.5, *[None] * 4])

    def test_a_reading_goes_on_at_the_page_where_it_was_refused(self) -> None:
        source = self.made("json", "/exchange/limited?page={page}", paging="page")
        self.assertEqual([warning["code"] for warning in self.read(source)["warnings"]], ["words_unread"])
        self.assertEqual(self.found(), ["Ring 2", "Ring 3"])
        self.assertEqual(self.read(source)["error"], "")
        self.assertEqual(sorted(self.found()), [f"Ring {number}" for number in range(2, 8)])
