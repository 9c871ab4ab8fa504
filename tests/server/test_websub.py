"""Pushed feeds: subscribed at the stand-in hub over HTTP, verified, renewed, and given up."""

import hashlib
import hmac
import urllib.parse
import urllib.request
from collections.abc import Callable
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.test import Client, LiveServerTestCase, TestCase, override_settings
from glyptarch_core.errors import ParseError
from glyptarch_core.readers import read_feed
from glyptarch_server.common.seal import unseal
from glyptarch_server.items.actions import keep_answer, read_and_capture
from glyptarch_server.items.models import Item
from glyptarch_server.sources.gathering import SourceAnswer, _with_wishes
from glyptarch_server.sources.models import Source, SourceState
from glyptarch_server.websub.actions import care, verified
from glyptarch_server.websub.models import Subscription
from glyptarch_server.websub.queries import to_ask_again
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchPortal
from glyptarch_standins.app import World, make_app

from tests.processes import until
from tests.served import served
from tests.server.fixtures import NOW, CannedPortal, clock, make_blog, make_source

ATOM = b"""<feed xmlns="http://www.w3.org/2005/Atom"><id>f</id><title>Club</title>
<link rel="hub" href="https://hub.example/"/><link rel="self" href="https://club.example/self"/>
<entry><id>%s</id><title>A ring around the moon</title><updated>2026-11-24T10:00:00Z</updated></entry></feed>"""
HERE = override_settings(GLYPTARCH_PUBLIC_ADDRESS="https://desk.example")


@HERE
class Subscribed(TestCase):
    def setUp(self) -> None:
        self.source = make_source(make_blog())
        self.portal = CannedPortal({self.source.url: ATOM % b"1", "https://hub.example/": b"ok"})
        read_and_capture(self.source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        self.care()

    def care(self, days: float = 0) -> int:
        return care(fetcher=self.portal, now=NOW + timedelta(days=days))  # type: ignore[arg-type]

    def kept(self) -> Subscription:
        return Subscription.objects.select_related("source").get()

    def called(self, **query: str) -> Any:  # noqa: ANN401
        names = {f"hub.{name}": value for name, value in query.items()}
        return Client().get(f"/websub/{self.kept().key}?{urllib.parse.urlencode(names)}")

    def verify(self) -> None:
        answer = self.called(
            mode="subscribe", topic="https://club.example/self", challenge="abc", lease_seconds="864000"
        )
        self.assertEqual(answer.content, b"abc")

    def push(self, body: bytes, secret: str = "", method: str = "sha256") -> int:
        key = (secret or unseal(self.kept().secret_sealed)).encode()
        signature = f"{method}={hmac.new(key, body, getattr(hashlib, method)).hexdigest()}"
        answer = Client(enforce_csrf_checks=True).post(
            f"/websub/{self.kept().key}",
            body,
            content_type="application/atom+xml",
            headers={"X-Hub-Signature": signature},
        )
        return int(answer.status_code)

    def test_the_hub_is_asked_with_topic_callback_and_a_secret(self) -> None:
        form = dict(self.portal.asked[-1].form)
        self.assertEqual((form["hub.mode"], form["hub.topic"]), ("subscribe", "https://club.example/self"))
        self.assertEqual(form["hub.callback"], f"https://desk.example/websub/{self.kept().key}")
        self.assertNotIn(form["hub.secret"], str(Subscription.objects.values()[0]))
        self.assertEqual(self.care(), 0)

    def test_what_the_hub_says_before_its_answer_has_come_is_kept(self) -> None:
        topic, timeout = "https://club.example/self", FetchError(FetchCode.TOO_SLOW, "It took too long.")
        for said, answer, state, failure in (
            ({"mode": "denied", "topic": topic, "reason": "Not today."}, b"ok", "refused", "Not today."),
            ({"mode": "subscribe", "topic": topic, "challenge": "x"}, timeout, "verified", "It took too long."),
        ):
            with self.subTest(said["mode"]):
                Subscription.objects.all().delete()
                self.portal.bodies["https://hub.example/"] = answer
                answers = self.portal.fetch_all

                def speaks_first(requests: Any, said: Any = said, answers: Any = answers) -> Any:  # noqa: ANN401
                    self.called(**said)
                    return answers(requests)

                with patch.object(self.portal, "fetch_all", speaks_first):
                    self.care()
                self.assertEqual(self.kept().state, state)
                self.assertIn(failure, self.kept().failure)

    def test_only_what_we_asked_for_is_verified(self) -> None:
        self.assertEqual(self.called(mode="subscribe", topic="https://evil.example/", challenge="x").status_code, 404)
        self.assertEqual(
            self.called(mode="unsubscribe", topic="https://club.example/self", challenge="x").status_code, 404
        )
        self.assertEqual(Client().get("/websub/unknown?hub.mode=subscribe&hub.challenge=x").status_code, 404)
        self.verify()
        self.assertEqual(self.kept().state, "verified")

    def test_what_is_signed_rightly_is_captured(self) -> None:
        self.verify()
        self.assertEqual(self.push(ATOM % b"2"), 202)
        self.assertEqual(self.push(ATOM % b"3", method="sha512"), 202)
        self.assertEqual(Item.objects.count(), 3)
        self.assertEqual(self.kept().bad_pushes, 0)

    def test_a_push_counts_only_while_the_subscription_holds_and_the_source_may_be_read(self) -> None:
        self.verify()
        for fields in ({"paused": True}, {"blocked_at": NOW}, {"removed_at": NOW}):
            with self.subTest(fields):
                Source.objects.update(**fields)
                self.push(ATOM % b"2")
                self.assertEqual(Item.objects.count(), 1)
                Source.objects.update(paused=False, blocked_at=None, removed_at=None)
        self.assertEqual(self.called(mode="denied", topic="https://club.example/other", reason="").status_code, 404)
        self.assertEqual(self.kept().state, "verified")
        self.called(mode="denied", topic="https://club.example/self", reason="")
        self.push(ATOM % b"2")
        self.assertEqual(Item.objects.count(), 1)

    def test_an_old_push_that_is_sent_once_more_brings_no_old_text_back(self) -> None:
        self.verify()
        old = ATOM % b"1"
        corrected = old.replace(b"A ring", b"A halo").replace(b"10:00:00Z", b"11:00:00Z")
        for body, title in ((corrected, "A halo around the moon"), (old, "A halo around the moon")):
            self.push(body)
            self.assertEqual(Item.objects.get().title, title)

    def test_what_is_not_is_thrown_away(self) -> None:
        self.verify()
        self.assertEqual(self.push(ATOM % b"2", secret="guessed"), 202)
        self.assertEqual(self.push(ATOM % b"2", method="md5"), 202)
        self.assertEqual((Item.objects.count(), self.kept().bad_pushes), (1, 2))

    def test_what_is_no_feed_is_told_and_harms_nothing(self) -> None:
        self.verify()
        self.assertEqual(self.push(b"\xff\x00 no feed"), 202)
        self.assertIn("cannot be read", self.kept().failure)
        self.assertEqual(Item.objects.count(), 1)

    def test_polling_slows_down_and_is_taken_up_again_when_the_hub_falls_silent(self) -> None:
        self.verify()
        source = Source.objects.get()
        self.portal.bodies[source.url] = ATOM % b"1"
        read_and_capture(source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        self.assertEqual(source.state.next_read_at, NOW + timedelta(minutes=1), "it has pushed nothing yet")
        self.push(ATOM % b"2")
        source = Source.objects.get()
        read_and_capture(source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        self.assertEqual(source.state.next_read_at, NOW + timedelta(hours=1))
        self.portal.bodies[source.url] = ATOM % b"9"
        read_and_capture(source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        self.assertIsNone(Source.objects.get().state.pushed_until)
        read_and_capture(source, fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        self.assertEqual(source.state.next_read_at, NOW + timedelta(minutes=1))
        self.push(ATOM % b"10")
        self.assertIsNotNone(Source.objects.get().state.pushed_until)

    def test_a_lease_is_renewed_before_it_ends(self) -> None:
        self.verify()
        Subscription.objects.update(lease_ends_at=NOW + timedelta(days=10))
        self.assertEqual([self.care(days) for days in (5, 9.5)], [0, 1])

    def test_a_short_lease_is_renewed_in_its_last_third(self) -> None:
        self.verify()
        Subscription.objects.update(lease_ends_at=NOW + timedelta(hours=3), asked_at=NOW)
        self.assertEqual([self.care(hours / 24) for hours in (1.5, 2.1)], [0, 1])

    def test_one_that_is_not_wanted_any_more_is_ended_at_its_hub(self) -> None:
        self.verify()
        self.assertEqual(
            self.called(mode="unsubscribe", topic="https://club.example/self", challenge="x").status_code, 404
        )
        Source.objects.update(paused=True)
        self.portal.asked.clear()
        self.care(0.1)
        (request,) = self.portal.asked
        self.assertEqual((request.url, dict(request.form)["hub.mode"]), ("https://hub.example/", "unsubscribe"))
        self.assertEqual((self.kept().state, Source.objects.get().state.pushed_until), ("ending", None))
        self.assertEqual(self.called(mode="unsubscribe", topic="another", challenge="x").status_code, 404)
        late = self.called(mode="subscribe", topic="https://club.example/self", challenge="x")
        self.assertEqual((late.status_code, self.kept().state), (404, "ending"))
        answer = self.called(mode="unsubscribe", topic="https://club.example/self", challenge="abc")
        self.assertEqual((answer.content, Subscription.objects.count()), (b"abc", 0))
        Source.objects.update(paused=False)
        self.assertEqual(self.care(0.2), 1)

    def test_a_removed_source_ends_it_also_where_the_hub_says_nothing(self) -> None:
        self.verify()
        Source.objects.update(removed_at=NOW)
        self.care(0.1)
        self.care(0.2)
        self.assertFalse(Subscription.objects.exists())

    def test_the_hub_of_a_header_counts_as_well(self) -> None:
        link = '<https://other.example/hub>; rel="hub", <https://club.example/canonical>; rel="self"'
        answer = Fetched(
            url=self.source.url, body=b"", not_modified=False, content_type="", etag="", last_modified="",
            milliseconds=1, headers={"link": link},
        )  # fmt: skip
        feed = read_feed(ATOM % b"1", source="club", url=self.source.url)
        wished = _with_wishes(Source.objects.get(), answer, feed)
        assert not isinstance(wished, ParseError)
        self.assertEqual(
            (wished.hub, wished.self_link), ("https://other.example/hub", "https://club.example/canonical")
        )

    def test_hubs_that_refuse_do_not_keep_a_lease_waiting(self) -> None:
        for number in range(60):
            Subscription.objects.create(
                source=make_source(self.source.blog, f"s{number}"), key=f"k{number}", state="refused", asked_at=NOW
            )
        SourceState.objects.update(hub="https://hub.example/")
        last = Subscription.objects.order_by("-pk")[0]
        Subscription.objects.filter(pk=last.pk).update(state="verified", lease_ends_at=NOW + timedelta(days=10))
        asked = to_ask_again(NOW + timedelta(days=9.5))
        self.assertEqual((asked[0].pk, len(asked)), (last.pk, 50))

    def test_a_hub_that_denies_is_asked_ever_more_rarely_and_then_no_more(self) -> None:
        self.called(mode="denied", topic="https://club.example/self", reason="Not today.")
        self.assertEqual((self.kept().state, self.kept().failure), ("refused", "The hub does not want it. Not today."))
        asked = [self.care(hours / 24) for hours in range(1, 400)]
        self.assertEqual(sum(asked), 7)

    def test_a_reason_of_odd_characters_is_kept_as_text(self) -> None:
        answer = self.called(mode="denied", topic="https://club.example/self", reason="No\x00\u202e " + "x" * 5000)
        self.assertEqual(answer.status_code, 200)
        self.assertNotIn("\x00", self.kept().failure)
        self.assertLess(len(self.kept().failure), 400)

    def test_a_hub_that_cannot_be_reached_is_told_at_the_source(self) -> None:
        self.portal.bodies["https://hub.example/"] = FetchError("unreachable", "hub.example cannot be reached.")  # type: ignore[arg-type]
        self.care(1)
        self.assertEqual((self.kept().state, self.kept().failure), ("refused", "hub.example cannot be reached."))

    def test_a_feed_that_names_no_hub_any_more_is_polled(self) -> None:
        source = Source.objects.get()
        outcome = read_feed((ATOM % b"1").replace(b'rel="hub"', b'rel="x"'), source="club", url=source.url)
        keep_answer(source, SourceAnswer(outcome=outcome), now=NOW)
        self.assertEqual(Source.objects.get().state.hub, "")
        self.assertEqual(self.care(30), 0)

    def test_a_lease_is_kept_within_reason(self) -> None:
        row = self.kept()
        for given, seconds in (("5", 5), ("x", 864000), ("9" * 40, 864000), ("7200", 7200)):
            verified(row, topic=row.topic, lease_seconds=given, now=NOW)
            self.assertEqual(row.lease_ends_at, NOW + timedelta(seconds=seconds), given)

    def test_without_a_public_address_no_hub_is_asked(self) -> None:
        Subscription.objects.all().delete()
        with override_settings(GLYPTARCH_PUBLIC_ADDRESS=""):
            self.assertEqual(self.care(), 0)


class TheHubOfTheWorld(LiveServerTestCase):
    """Our server and the stand-in hub, with HTTP in both directions."""

    def setUp(self) -> None:
        self.world = World(fixed=NOW)
        opened = served(make_app(self.world))
        self.outside = opened.__enter__()
        self.addCleanup(opened.__exit__, None, None, None)
        self.portal = FetchPortal(allowed=frozenset({self.outside}))
        self.addCleanup(self.portal.close)
        here = override_settings(GLYPTARCH_PUBLIC_ADDRESS=self.live_server_url)
        here.enable()
        self.addCleanup(here.disable)
        self.source = Source.objects.create(
            blog=make_blog(),
            key="observatory",
            url=f"http://{self.outside}/observatory/feed",
            title="Observatory",
            right="full",
            added_at=NOW,
        )
        read_and_capture(self.source, fetcher=self.portal, clock=clock)

    def goes_on(self, **form: str) -> None:
        data = urllib.parse.urlencode(form).encode()
        with urllib.request.urlopen(f"http://{self.outside}/control", data, timeout=20) as answer:
            answer.read()

    def becomes(self, holds: Callable[[Subscription], bool]) -> Subscription:
        self.assertTrue(until(lambda: holds(Subscription.objects.get()), seconds=15), Subscription.objects.values())
        return Subscription.objects.get()

    def subscribe(self) -> None:
        """Subscribe, and wait until both sides have stored it: the hub does so after our server."""
        care(fetcher=self.portal, now=NOW)
        self.becomes(lambda row: row.state == "verified")
        self.assertTrue(until(lambda: any(self.world.hub.subscribers.values()), seconds=15))

    def test_news_come_by_push(self) -> None:
        self.subscribe()
        before = Item.objects.count()
        self.goes_on(hours="72")
        self.becomes(lambda row: row.pushed_at is not None)
        self.assertGreater(Item.objects.count(), before)

    def test_a_paused_source_ends_its_subscription(self) -> None:
        self.subscribe()
        Source.objects.update(paused=True)
        care(fetcher=self.portal, now=NOW + timedelta(minutes=1))
        self.assertTrue(until(lambda: not Subscription.objects.exists(), seconds=15))
        self.assertTrue(until(lambda: not any(self.world.hub.subscribers.values()), seconds=15))

    def test_a_hub_that_lies_is_not_believed(self) -> None:
        self.goes_on(hub="lies")
        self.subscribe()
        before = Item.objects.count()
        self.goes_on(hours="72")
        row = self.becomes(lambda row: row.bad_pushes == 1)
        self.assertEqual((row.pushed_at, Item.objects.count()), (None, before))

    def test_a_hub_that_is_silent_is_found_out_by_polling(self) -> None:
        self.goes_on(hub="silent")
        self.subscribe()
        self.goes_on(hours="72")
        source = Source.objects.get()
        read_and_capture(source, fetcher=self.portal, clock=clock)
        self.assertIsNone(Source.objects.get().state.pushed_until)

    def test_a_hub_that_refuses_is_told(self) -> None:
        self.goes_on(hub="refuses")
        care(fetcher=self.portal, now=NOW)
        row = self.becomes(lambda row: row.state == "refused")
        self.assertIn("Not today.", row.failure)
