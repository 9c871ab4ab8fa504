"""Platforms over HTTP: connections, adapters with faults, secrets, and the shared quota."""

import json
import threading
import time
from contextlib import closing
from datetime import timedelta
from typing import Any
from unittest.mock import patch
from urllib.parse import SplitResult, parse_qs, unquote_plus, urlsplit

import httpx
from django.db import connection as database
from django.test import TransactionTestCase
from glyptarch_server import wiring
from glyptarch_server.items.models import Item
from glyptarch_server.platforms import gathering, signing_in
from glyptarch_server.platforms.access import fields_of
from glyptarch_server.platforms.actions import make_connection, save_connection, take_request
from glyptarch_server.platforms.gathering import first_answer
from glyptarch_server.platforms.models import Connection, Usage
from glyptarch_server.platforms.signing_in import with_fresh_token
from glyptarch_server.sources.models import Source, SourceState
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchPortal
from glyptarch_standins.app import World, make_app
from glyptarch_standins.platforms import PLATFORM_KEYS

from tests.served import served
from tests.server.fixtures import NOW, make_blog, make_campaign, run
from tests.server.test_api import ApiCase

ASKS: dict[str, dict[str, Any]] = {
    "wire": {"span": "archive", "begin": "2026-11-01", "end": "2026-11-24"},
    "films": {},
    "shop": {},
    "notes": {"name": "meadowlark", "most": 25},
    "questions": {},
    "articles": {},
}


def fields_for(platform: str) -> dict[str, str]:
    name = {"films": "token", "notes": "client"}.get(platform, "key")
    return {name: PLATFORM_KEYS[platform]}


class Platforms(ApiCase):
    """One served world of stand-ins."""

    def setUp(self) -> None:
        super().setUp()
        self.world = World(fixed=NOW)
        serving = served(make_app(self.world))
        self.host = serving.__enter__()
        self.addCleanup(serving.__exit__, None, None, None)
        portal = FetchPortal(allowed=frozenset({self.host}))
        self.addCleanup(portal.close)
        patched = patch.object(wiring, "fetcher", return_value=portal)
        patched.start()
        self.addCleanup(patched.stop)

    def ask(self, method: str, path: str, status: int = 200, **body: Any) -> Any:  # noqa: ANN401
        answer = self.call(self.editor, method, f"/blogs/meadow{path}", body if method in {"POST", "PUT"} else None)
        self.assertEqual(answer.status_code, status, answer.content[:600])
        return answer.json() if answer.content and status != 204 else None

    def connect(self, platform: str, **fields: str) -> Any:  # noqa: ANN401
        address = f"http://{self.host}/api/{platform}"
        given = fields or fields_for(platform)
        made = self.ask("POST", "/connections", platform=platform, name=platform, address=address, fields=given)
        return self.signed_in(made["key"]) if platform == "notes" else made

    def signed_in(self, key: str) -> Any:  # noqa: ANN401
        """Sign in at the notes network as a person does in the browser."""
        back = self.allowed(key)
        answer = self.call(self.editor, "GET", f"{back.path.removeprefix('/api')}?{back.query}")
        self.assertEqual((answer.status_code, answer["Location"]), (302, "/desk/meadow/connections"), answer.content)
        return next(one for one in self.ask("GET", "/connections") if one["key"] == key)

    def allowed(self, key: str) -> SplitResult:
        """Press “Allow” at the platform.

        Return the address that it redirects to.
        """
        address = self.ask("POST", f"/connections/{key}/sign-in")["address"]
        pressed = httpx.get(f"{address}&allow=1", follow_redirects=False)
        self.assertEqual(pressed.status_code, 302, pressed.text)
        return urlsplit(pressed.headers["location"])

    def made(self, platform: str, words: tuple[str, ...] = (), **parameters: Any) -> Source:  # noqa: ANN401
        added = self.ask(
            "POST", "/platform-sources", platform=platform, title=f"From {platform}", connection=self.connect(platform)["key"],
            parameters={**ASKS[platform], **parameters}, search_words=[{"text": word} for word in words],
        )  # fmt: skip
        return Source.objects.get(key=added["key"])

    def read(self, source: Source) -> Any:  # noqa: ANN401
        return self.ask("POST", f"/sources/{source.key}/read")


class Connections(Platforms):
    def test_a_connection_is_checked_and_tells_no_secret(self) -> None:
        made = self.connect("wire")
        self.assertEqual((made["state"], made["detail"], made["limit_a_day"]), ("valid", "", 1000))
        self.assertNotIn(PLATFORM_KEYS["wire"], json.dumps([made, self.ask("GET", "/connections")]))
        row = Connection.objects.get()
        self.assertNotIn(PLATFORM_KEYS["wire"], row.sealed)
        self.assertEqual(made["used"], [{"who": "", "used": 1}])

    def test_what_is_wrong_with_it_is_said_and_what_to_do(self) -> None:
        wrong = self.connect("wire", key="not-it")
        self.assertEqual(wrong["state"], "wrong")
        self.assertIn("enter it again", wrong["detail"])
        self.ask(
            "PUT", f"/connections/{wrong['key']}", name="Wire", address=wrong["address"], fields=fields_for("wire")
        )
        for fault, state, told in (
            ("expired", "expired", "has expired"),
            ("not_enabled", "not_enabled", "Enable"),
            ("quota", "over_limit", "asked too often"),
            ("down", "unreachable", "503"),
        ):
            self.world.platform_faults["wire"] = fault
            found = self.ask("POST", f"/connections/{wrong['key']}/check")
            self.assertEqual(found["state"], state)
            self.assertIn(told, found["detail"])
            self.assertEqual(bool(found["waits_until"]), fault in {"quota", "down"}, fault)

    def test_a_header_that_the_fetching_sets_itself_is_refused(self) -> None:
        for name in ("Host", "content-length", "X Key"):
            refused = self.ask(
                "POST", "/connections", 422, platform="json", name="Tides", address=f"http://{self.host}/api/tides",
                fields={"header": name, "key": "k"},
            )  # fmt: skip
            self.assertEqual(refused["faults"][0]["path"], "fields.header", name)

    def test_an_empty_secret_keeps_the_known_one_but_not_at_another_address(self) -> None:
        made = self.connect("wire")
        saved = self.ask("PUT", f"/connections/{made['key']}", name="Other", address=made["address"], fields={})
        self.assertEqual((saved["state"], saved["name"]), ("valid", "Other"))
        elsewhere = self.ask(
            "PUT", f"/connections/{made['key']}", 422, name="Other", address="https://elsewhere.example/", fields={}
        )
        self.assertEqual(elsewhere["faults"][0]["path"], "fields.key")

    def test_one_that_is_used_stays_and_one_that_goes_takes_its_secrets(self) -> None:
        source = self.made("wire")
        self.ask("DELETE", "/connections/wire", 409)
        Source.objects.filter(pk=source.pk).update(removed_at=NOW)
        self.ask("DELETE", "/connections/wire", 204)
        self.assertEqual((Connection.objects.get().sealed, self.ask("GET", "/connections")), ("", []))

    def test_a_person_signs_in_once_and_the_token_is_renewed(self) -> None:
        made = self.connect("notes")
        self.assertEqual((made["state"], made["detail"]), ("valid", ""))
        row = Connection.objects.get()
        first = fields_of(row)
        self.assertEqual((first["access"], set(first)), ("notes-access-1", {"client", "access", "refresh", "ends"}))
        self.world.fixed = NOW + timedelta(hours=2)
        with patch.object(wiring, "clock", return_value=lambda: NOW + timedelta(hours=2)):
            self.assertEqual(self.ask("POST", f"/connections/{made['key']}/check")["state"], "valid")
        second = fields_of(Connection.objects.get())
        self.assertEqual((second["access"], second["refresh"]), ("notes-access-2", "notes-refresh-2"))

    def test_a_change_of_a_connection_keeps_a_token_that_was_renewed_meanwhile(self) -> None:
        self.connect("notes")
        stale = Connection.objects.get()
        self.world.fixed = NOW + timedelta(hours=2)
        fresh = Connection.objects.get()
        self.assertIsNone(with_fresh_token(fresh, fetcher=wiring.fetcher(), now=NOW + timedelta(hours=2)))
        save_connection(stale, name="Renamed", address=stale.address, fields={"client": PLATFORM_KEYS["notes"]})
        self.assertEqual(fields_of(Connection.objects.get())["access"], "notes-access-2")

    def test_no_transaction_is_open_while_a_token_is_renewed_and_others_wait_for_it(self) -> None:
        self.connect("notes")
        later, asked = NOW + timedelta(hours=2), 0
        self.world.fixed = later
        real = signing_in._tokens

        def tokens(*args: Any, **kwargs: Any) -> Any:  # noqa: ANN401
            nonlocal asked
            asked += 1
            claimed = Connection.objects.get()
            self.assertEqual(claimed.renewing_until, later + timedelta(seconds=30))
            self.assertFalse(signing_in._claim_renewal(claimed, later))
            return real(*args, **kwargs)

        with patch.object(signing_in, "_tokens", tokens):
            for _ in range(2):
                self.assertIsNone(with_fresh_token(Connection.objects.get(), fetcher=wiring.fetcher(), now=later))
        self.assertEqual((asked, Connection.objects.get().renewing_until), (1, None))

    def test_a_sign_in_that_has_ended_says_so_and_is_begun_again(self) -> None:
        made = self.connect("notes")
        later = NOW + timedelta(hours=2)
        self.world.fixed, self.world.platform_faults["notes"] = later, "expired"
        with patch.object(wiring, "clock", return_value=lambda: later):
            ended = self.ask("POST", f"/connections/{made['key']}/check")
            self.assertEqual((ended["state"], "Sign in" in ended["detail"]), ("expired", True))
            self.world.platform_faults["notes"] = ""
            self.assertEqual(self.signed_in(made["key"])["state"], "valid")

    def test_nobody_else_can_end_a_sign_in_and_it_is_good_once(self) -> None:
        address = f"http://{self.host}/api/notes"
        made = self.ask("POST", "/connections", platform="notes", name="N", address=address, fields=fields_for("notes"))
        self.assertEqual((made["state"], "Nobody has signed in" in made["detail"]), ("unsigned", True))
        again = self.ask("POST", f"/connections/{made['key']}/check")
        self.assertEqual(again["state"], "unsigned")
        tested = self.ask("POST", "/platform-test", platform="notes", connection=made["key"], parameters=ASKS["notes"])
        self.assertIn("Nobody has signed in", tested["error"])
        self.assertEqual(self.ask("GET", "/connections")[0]["state"], "unsigned")
        back = self.allowed(made["key"])
        path = f"{back.path.removeprefix('/api')}?{back.query}"
        self.assertEqual(self.call(None, "GET", path).status_code, 401)
        for user, asked, why in (
            (self.stranger, path, "You have no blog"),
            (self.viewer, path, "may do this"),
            (self.editor, path.replace("state=", "state=x"), "begun too long ago"),
            (self.editor, path, ""),
            (self.editor, path, "has been used already"),
        ):
            answer = self.call(user, "GET", asked)
            self.assertEqual(answer.status_code, 302)
            self.assertIn(why, unquote_plus(answer.headers["Location"].partition("refused=")[2]))

    def test_a_sign_in_expires_after_a_quarter_of_an_hour(self) -> None:
        address = f"http://{self.host}/api/notes"
        made = self.ask("POST", "/connections", platform="notes", name="N", address=address, fields=fields_for("notes"))
        back = self.allowed(made["key"])
        path = f"{back.path.removeprefix('/api')}?{back.query}"
        with patch("django.core.signing.time.time", return_value=time.time() + 16 * 60):
            answer = self.call(self.editor, "GET", path)
        self.assertIn("begun too long ago", unquote_plus(answer.headers["Location"]))

    def test_another_client_needs_a_new_sign_in(self) -> None:
        self.connect("notes")
        row = Connection.objects.get()
        save_connection(row, name="Renamed", address=row.address, fields={"client": "another"})
        self.assertEqual(fields_of(Connection.objects.get()), {"client": "another"})

    def test_a_connection_that_must_wait_gets_no_request_of_the_quota(self) -> None:
        self.connect("wire")
        Connection.objects.update(waits_until=NOW + timedelta(minutes=5))
        refused = take_request(Connection.objects.get(), "me", ["me"], now=NOW)
        assert refused is not None
        self.assertEqual(refused.until, NOW + timedelta(minutes=5))
        self.assertIsNone(take_request(Connection.objects.get(), "me", ["me"], now=NOW + timedelta(minutes=6)))

    def test_a_person_who_says_no_there_is_told_so_at_the_desk(self) -> None:
        address = f"http://{self.host}/api/notes"
        made = self.ask("POST", "/connections", platform="notes", name="N", address=address, fields=fields_for("notes"))
        back = self.allowed(made["key"])
        state = parse_qs(back.query)["state"][0]
        answer = self.call(self.editor, "GET", f"/connections/signed-in?error=access_denied&state={state}")
        self.assertTrue(answer.headers["Location"].startswith("/desk/meadow/connections?refused=You+did+not+allow"))
        code = f"{back.path.removeprefix('/api')}?{back.query}"
        self.assertIn("used+already", self.call(self.editor, "GET", code).headers["Location"])

    def test_a_token_of_megabytes_is_not_taken(self) -> None:
        for token in ("x" * (2 << 20), "", "snow\u2603", "a\nb"):
            answer = Fetched(
                url="https://a.example/", body=json.dumps({"access_token": token}).encode(), not_modified=False,
                content_type="", etag="", last_modified="", milliseconds=1,
            )  # fmt: skip
            self.assertIsInstance(signing_in._read(answer), FetchError, token[:9])

    def test_another_platform_refuses_a_wrong_key(self) -> None:
        address = f"http://{self.host}/api/notes"
        self.assertEqual(
            self.ask("POST", "/connections", platform="wire", name="W", address=address, fields=fields_for("wire"))[
                "state"
            ],
            "wrong",
        )
        self.ask("POST", "/connections/w/sign-in", 409)

    def test_secrets_stand_in_no_answer_log_trace_or_table(self) -> None:
        with self.assertLogs(level="DEBUG") as logged:
            for platform in ASKS:
                self.world.platform_faults[platform] = ""
                source = self.made(platform)
                self.read(source)
                self.world.platform_faults[platform] = "expired"
                self.read(source)
                self.ask("GET", f"/sources/{source.key}")
        answers = [self.ask("GET", path) for path in ("/connections", "/sources")]
        with database.cursor() as cursor:
            tables = database.introspection.table_names(cursor)
            rows = []
            for table in tables:
                cursor.execute(f'SELECT * FROM "{table}"')  # noqa: S608 - names of our own tables
                rows.append(str(cursor.fetchall()))
        everything = "\n".join([*logged.output, json.dumps(answers), *rows])
        for secret in (
            *(key for name, key in PLATFORM_KEYS.items() if name != "notes"),
            "notes-access-",
            "notes-refresh-",
        ):
            self.assertNotIn(secret, everything)

    def test_secrets_go_to_no_other_host(self) -> None:
        made = self.ask(
            "POST", "/connections", platform="json", name="Tides", address=f"http://{self.host}/",
            fields={"header": "X-Tides-Key", "key": PLATFORM_KEYS["tides"]},
        )  # fmt: skip
        elsewhere = World(fixed=NOW)
        heard: list[str] = []
        app = make_app(elsewhere)
        app.on_response_prepare.append(lambda request, _: heard.append(str(dict(request.headers))) or _nothing())
        with served(app) as other, closing(FetchPortal(allowed=frozenset({self.host, other}))) as portal:
            parameters = {"address": f"http://{other}/api/tides/v2/vale"}
            with patch.object(wiring, "fetcher", return_value=portal):
                self.ask("POST", "/platform-test", platform="json", connection=made["key"], parameters=parameters)
        self.assertTrue(heard)
        self.assertNotIn(PLATFORM_KEYS["tides"], "".join(heard))


async def _nothing() -> None:
    return None


class PlatformSources(Platforms):
    def test_every_platform_is_read_to_its_end(self) -> None:
        for platform in ASKS:
            with self.subTest(platform):
                source = self.made(platform)
                reading = self.read(source)
                items = list(Item.objects.filter(source=source))
                self.assertEqual((reading["error"], reading["warnings"]), ("", []))
                self.assertGreater(len(items), 20)
                self.assertTrue(all(item.title and item.link and item.text for item in items))
                self.assertTrue(all(item.published for item in items))
                self.assertEqual(self.read(source)["fresh"], 0)
        self.assertEqual(Item.objects.filter(source__ask_row__platform="notes").count(), 25)

    def test_faults_end_in_plain_words_and_lose_nothing(self) -> None:
        expected = {
            "expired": "The key has expired. Make a new one",
            "not_enabled": "may not be used for this",
            "quota": "asked too often",
            "slow_down": "asked too often",
            "down": "trouble on its side",
            "new_version": "has no list",
        }
        for platform in ASKS:
            source = self.made(platform)
            for fault, words in expected.items():
                with self.subTest(platform=platform, fault=fault):
                    self.world.platform_faults[platform] = fault
                    Connection.objects.update(waits_until=None)
                    reading = self.read(source)
                    self.assertIn(words, reading["detail"])
                    self.assertEqual(Item.objects.filter(source=source).count(), 0)
            self.world.platform_faults[platform] = ""
            Connection.objects.update(waits_until=None)
            self.assertGreater(self.read(source)["fresh"], 20)

    def test_what_a_fault_on_a_later_page_left_is_read_the_next_time(self) -> None:
        whole = self.made("notes", most=100)
        self.read(whole)
        number = Item.objects.filter(source=whole).count()
        Source.objects.filter(pk=whole.pk).delete()
        source, calls = self.made("notes", most=100), 0

        def fails_on_the_second_page(*args: Any, **kwargs: Any) -> Any:  # noqa: ANN401
            nonlocal calls
            calls += 1
            fault = FetchError(FetchCode.SERVER_ERROR, "It has trouble.", status=500)
            return (fault, None) if calls == 2 else first_answer(*args, **kwargs)

        with patch.object(gathering, "first_answer", fails_on_the_second_page):
            reading = self.read(source)
        self.assertIn("words_unread", [warning["code"] for warning in reading["warnings"]])
        self.assertLess(Item.objects.filter(source=source).count(), number)
        self.assertTrue(Source.objects.get(pk=source.pk).state.broken_off)
        again = self.read(source)
        self.assertEqual(again["warnings"], [])
        self.assertEqual(Item.objects.filter(source=source).count(), number)
        self.assertEqual(Source.objects.get(pk=source.pk).state.broken_off, {})

    def test_a_gap_stays_noted_until_it_is_read(self) -> None:
        source = self.made("notes", most=100)
        SourceState.objects.filter(source=source).update(broken_off={"": "a page"})
        self.world.platform_faults["notes"] = "broken"
        self.read(source)
        self.assertEqual(Source.objects.get(pk=source.pk).state.broken_off, {"": "a page"})

    def test_a_page_that_repeats_ends_the_reading(self) -> None:
        for platform in ASKS:
            with self.subTest(platform):
                source = self.made(platform, **({"most": 400} if platform == "notes" else {}))
                self.world.platform_faults[platform] = "repeats"
                reading = self.read(source)
                self.assertIn("page_repeats", [warning["code"] for warning in reading["warnings"]])
                self.assertLessEqual(Item.objects.filter(source=source).count(), 20)

    def test_half_broken_answers_and_other_encodings_give_what_can_be_read(self) -> None:
        for platform in ASKS:
            for fault in ("half_broken", "encoding"):
                with self.subTest(platform=platform, fault=fault):
                    source = self.made(platform)
                    self.world.platform_faults[platform] = fault
                    reading = self.read(source)
                    self.assertEqual(reading["error"], "")
                    self.assertGreater(Item.objects.filter(source=source).count(), 3 if fault == "half_broken" else 20)
                    self.world.platform_faults[platform] = ""

    def test_each_line_of_words_brings_its_own_items(self) -> None:
        source = self.made("films", ("comet", "nothing-has-this-word", "dome"))
        reading = self.read(source)
        self.assertEqual(reading["error"], "")
        words = set(Item.objects.filter(source=source).values_list("facts__keyword", flat=True))
        self.assertEqual(words, {"comet", "dome"})
        lines = [{"text": "comet", "on": False}, {"text": "mirror"}]
        self.ask("PUT", f"/sources/{source.key}/asks", connection="films", parameters={}, search_words=lines)
        self.read(source)
        self.assertIn("mirror", set(Item.objects.filter(source=source).values_list("facts__keyword", flat=True)))

    def test_words_that_go_with_the_kept_items_are_suggested(self) -> None:
        source = self.made("articles", ("comet",))
        self.read(source)
        campaign = make_campaign(self.blog, "films", gather={"sources": [source.key]}, release={"mode": "publish"})
        run(campaign)
        counted = self.ask("GET", f"/sources/{source.key}/words")
        self.assertEqual([one["text"] for one in counted], ["comet"])
        self.assertGreater(counted[0]["kept"], 3)
        found = self.ask("GET", f"/sources/{source.key}/suggested-words")
        self.assertTrue(all(one["kept"] >= 2 and one["text"] != "comet" for one in found), found)

    def test_a_source_whose_key_is_refused_says_so_before_anything_runs(self) -> None:
        source = self.made("wire")
        self.assertEqual(self.ask("GET", f"/sources/{source.key}")["source"]["connection_trouble"], "")
        self.world.platform_faults["wire"] = "expired"
        self.read(source)
        self.assertIn("Make a new one", self.ask("GET", f"/sources/{source.key}")["source"]["connection_trouble"])
        self.world.platform_faults["wire"] = "down"
        self.read(source)
        self.assertEqual(self.ask("GET", f"/sources/{source.key}")["source"]["connection_trouble"], "")

    def test_what_is_asked_is_passed_on_as_yaml_without_its_connection(self) -> None:
        source = self.made("wire", ("comet tail",), topic="comets")
        written = self.ask("GET", f"/sources/{source.key}/asks-yaml")["yaml"]
        self.assertNotIn("connection", written)
        read = self.ask("POST", "/asks-yaml", yaml=written)
        self.assertEqual(
            (read["platform"], read["title"], read["search_words"]),
            ("wire", "From wire", [{"text": "comet tail", "on": True}]),
        )
        self.assertEqual(read["parameters"], source.ask.parameters)
        short = self.ask("POST", "/asks-yaml", yaml="platform: wire\nsearch_words: [comet, {text: dome, on: false}]")
        self.assertEqual([line["on"] for line in short["search_words"]], [True, False])
        for odd in (
            "a: [",
            "- x",
            "platform: none",
            "platform: wire\nparameters: {span: archive}",
            "platform: wire\nparameters: 3",
        ):
            self.ask("POST", "/asks-yaml", 422, yaml=odd)

    def test_patterns_are_kept_once_and_have_one_place(self) -> None:
        address = "https://film.example/feed?channel={channel}"
        pattern = self.ask("POST", "/address-patterns", name="Films", address=address)
        self.assertEqual((pattern["place"], len(self.ask("GET", "/address-patterns"))), ("channel", 1))
        self.ask("POST", "/address-patterns", 409, name="Films", address=address)
        for odd in (
            "https://a.example/",
            "https://a.example/{a}/{b}",
            "https://a.example/{a}}",
            "https://a.example/{}",
        ):
            self.assertEqual(
                self.ask("POST", "/address-patterns", 422, name="X", address=odd)["faults"][0]["path"], "address"
            )
        self.ask("DELETE", f"/address-patterns/{pattern['id']}", 204)
        self.ask("DELETE", f"/address-patterns/{pattern['id']}", 404)

    def test_what_is_deleted_at_the_platform_stays_here(self) -> None:
        source = self.made("articles")
        self.read(source)
        before = Item.objects.filter(source=source).count()
        self.world.fixed = NOW - timedelta(days=90)
        self.read(source)
        self.assertGreaterEqual(Item.objects.filter(source=source).count(), before)

    def test_a_test_says_what_is_asked_and_how_many_there_are(self) -> None:
        key = self.connect("wire")["key"]
        found = self.ask("POST", "/platform-test", platform="wire", connection=key, parameters=ASKS["wire"])
        self.assertEqual(
            (found["described"], found["error"], len(found["items"])),
            ("the archive from 2026-11-01 to 2026-11-24", "", 10),
        )
        self.assertGreater(found["total"], 20)
        self.assertEqual((found["fields"]["title"], found["answer"]), (10, None))
        self.world.platform_faults["wire"] = "expired"
        told = self.ask("POST", "/platform-test", platform="wire", connection=key, parameters={})
        self.assertIn("Make a new one", told["error"])

    def test_a_last_day_without_news_leads_to_the_archive(self) -> None:
        key = self.connect("wire")["key"]
        parameters = {"topic": "a topic that nobody has"}
        nothing = self.ask("POST", "/platform-test", platform="wire", connection=key, parameters=parameters)
        self.assertEqual((nothing["items"], nothing["wider"]["name"]), ([], "the archive of the last 30 days"))
        asked = nothing["wider"]["parameters"]
        self.assertEqual((asked["span"], asked["begin"], asked["end"]), ("archive", "2026-10-25", "2026-11-24"))
        self.assertEqual(asked["topic"], parameters["topic"])
        still = self.ask("POST", "/platform-test", platform="wire", connection=key, parameters=asked)
        self.assertIsNone(still["wider"])
        some = self.ask("POST", "/platform-test", platform="wire", connection=key, parameters={"span": "latest"})
        self.assertEqual((bool(some["items"]), some["wider"]), (True, None))

    def test_the_next_source_on_a_platform_begins_as_the_last_one_was(self) -> None:
        self.assertIsNone(self.ask("GET", "/last-asked/wire"))
        source = self.made("wire", topic="Comets")
        last = self.ask("GET", "/last-asked/wire")
        self.assertEqual((last["source"], last["connection"]), (source.title, "wire"))
        self.assertEqual((last["parameters"]["topic"], last["parameters"]["span"]), ("Comets", "archive"))
        self.assertIsNone(self.ask("GET", "/last-asked/films"))
        more = {**ASKS["wire"], "topic": "Moons"}
        self.ask("POST", "/platform-sources", platform="wire", title="Moons", connection="wire", parameters=more)
        self.assertEqual(self.ask("GET", "/last-asked/wire")["parameters"]["topic"], "Moons")
        self.ask("DELETE", "/sources/moons", 204)
        self.ask("DELETE", f"/sources/{source.key}", 204)
        self.ask("DELETE", "/connections/wire", 204)
        self.assertEqual(self.ask("GET", "/last-asked/wire")["connection"], "")

    def test_what_does_not_hold_is_refused_with_its_place(self) -> None:
        key = self.connect("wire")["key"]
        for body, path in (
            ({"platform": "wire", "connection": key, "parameters": {"span": "archive"}}, "parameters"),
            ({"platform": "wire", "connection": key, "parameters": {"topic": 3}}, "parameters.topic"),
            ({"platform": "films", "connection": key, "parameters": {}}, "connection"),
            ({"platform": "wire", "connection": "", "parameters": {}}, "connection"),
        ):
            answer = self.ask("POST", "/platform-sources", 422, title="T", **body)
            self.assertEqual(answer["faults"][0]["path"], path)

    def test_three_apis_of_different_build_are_read_without_code(self) -> None:
        base = f"http://{self.host}/api"
        key = self.ask(
            "POST", "/connections", platform="json", name="Tides", address=f"{base}/tides",
            fields={"header": "X-Tides-Key", "key": PLATFORM_KEYS["tides"]},
        )["key"]  # fmt: skip
        for name, connection, parameters in (
            ("tides", key, {
                "address": f"{base}/tides/v2/vale?cur={{cursor}}", "paging": "cursor", "next": "paging.cursors.next",
                "list": "data.entries", "fields": {
                    "id": "meta.uuid", "title": "texts[?kind=='head'].value | [0]", "text": "texts[?kind=='body'].value | [0]",
                    "date": "meta.when", "link": "links.self.href",
                },
            }),
            ("harbour", "", {
                "address": f"{base}/harbour/log?skip={{offset}}", "paging": "offset",
                "fields": {"id": "nr", "title": "subject", "text": "content", "date": "written", "tags": "labels",
                           "author": "join(' ', [who.first, who.last])", "link": "permalink"},
            }),
            ("almanac", "", {
                "address": f"{base}/almanac/days", "paging": "link", "list": "result.days",
                "fields": {"id": "id", "title": "name", "text": "body_html", "picture": "images[0].src", "date": "date", "link": "url"},
            }),
        ):  # fmt: skip
            with self.subTest(name):
                found = self.ask(
                    "POST", "/platform-test", platform="json", connection=connection, parameters=parameters
                )
                self.assertEqual((found["error"], found["more"], len(found["items"])), ("", True, 10))
                self.assertIsNotNone(found["answer"])
                made = self.ask(
                    "POST",
                    "/platform-sources",
                    platform="json",
                    title=name,
                    connection=connection,
                    parameters=parameters,
                )
                source = Source.objects.get(key=made["key"])
                self.assertEqual(self.read(source)["error"], "")
                items = list(Item.objects.filter(source=source))
                self.assertGreaterEqual(len(items), 25)
                self.assertTrue(all(item.title and item.text and item.published and item.link for item in items))


class SharedQuota(TransactionTestCase):
    """Workers that ask at the same moment never take more than there is."""

    def test_four_workers_take_the_last_requests_once(self) -> None:
        blog = make_blog()
        connection = make_connection(
            blog, "wire", name="Wire", address="https://wire.example/", fields={"key": "k"}, now=NOW
        )
        Usage.objects.create(connection=connection, day=NOW.date(), who="others", used=990)
        taken: list[bool] = []

        def work() -> None:
            try:
                taken.extend(take_request(connection, "me", ["me"], now=NOW) is None for _ in range(10))
            finally:
                database.close()

        workers = [threading.Thread(target=work) for _ in range(4)]
        for worker in workers:
            worker.start()
        for worker in workers:
            worker.join()
        self.assertEqual((sum(taken), len(taken)), (10, 40))
        self.assertEqual(sum(Usage.objects.values_list("used", flat=True)), 1000)
        refused = take_request(connection, "me", ["me"], now=NOW)
        assert refused is not None
        self.assertIn("1000 requests of today", refused.message)
        self.assertEqual((refused.until.hour, refused.until.date()), (0, NOW.date() + timedelta(days=1)))
        self.assertIsNone(take_request(connection, "me", ["me"], now=NOW + timedelta(days=1)))
