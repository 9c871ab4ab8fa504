"""Older items of a source are counted first, then read page by page back to a day."""

from typing import Any
from unittest.mock import patch

from glyptarch_server import wiring
from glyptarch_server.archives.models import Walk
from glyptarch_server.items.models import Item
from procrastinate.contrib.django.models import ProcrastinateJob

from tests.server.fixtures import CannedPortal, carry_kind
from tests.server.test_api import ApiCase

BASE = "https://club.example/feed"


def page(number: int, older: str = "", months: int = 1, count: int = 3) -> bytes:
    entries = "".join(
        f"<entry><id>{number}-{one}</id><title>Story {number}-{one} of the night</title>"
        f"<updated>2026-{11 - months * number:02}-{20 - one:02}T10:00:00Z</updated></entry>"
        for one in range(count)
    )
    link = f'<link rel="prev-archive" href="{older}"/>' if older else ""
    return f'<feed xmlns="http://www.w3.org/2005/Atom"><id>f</id><title>Club</title>{link}{entries}</feed>'.encode()


class OlderItems(ApiCase):
    PATH = "/blogs/meadow/sources/club/older"

    def setUp(self) -> None:
        super().setUp()
        self.bodies: dict[str, Any] = {
            BASE: page(0, f"{BASE}/1"),
            **{
                f"{BASE}/{number}": page(number, f"{BASE}/{number + 1}" if number < 4 else "") for number in range(1, 5)
            },
        }
        self.portal = CannedPortal(self.bodies)
        patched = patch.object(wiring, "fetcher", return_value=self.portal)
        patched.start()
        self.addCleanup(patched.stop)
        self.before = Item.objects.count()

    def ask(self, method: str, path: str = "", **body: Any) -> Any:  # noqa: ANN401
        return self.call(self.editor, method, f"{self.PATH}{path}", body if method == "POST" else None)

    def walk(self, **body: Any) -> Walk:  # noqa: ANN401
        self.assertEqual(self.ask("POST", **{"floor": "2026-01-01", **body}).json()["state"], "waiting")
        self.carry_on()
        return Walk.objects.get()

    def carry_on(self) -> None:
        carry_kind("older", self.portal)

    def new(self) -> int:
        return Item.objects.count() - self.before

    def test_they_are_counted_and_nothing_is_kept(self) -> None:
        expected = self.ask("POST", "/count", floor="2026-08-01").json()
        self.assertEqual((expected["pages"], expected["items"], expected["more"]), (4, 9, False))
        self.assertEqual((expected["oldest"], expected["why_ended"]), ("2026-08-18T10:00:00Z", "The day was reached."))
        self.assertEqual(self.new(), 0)

    def test_they_are_read_down_to_the_day(self) -> None:
        walk = self.walk(floor="2026-09-01")
        self.assertEqual((walk.state, walk.page, walk.found, walk.fresh), ("done", 3, 6, 6))
        self.assertEqual(self.new(), 6)
        self.assertEqual(self.ask("GET").json()["why_ended"], "The day was reached.")

    def test_they_are_read_to_the_last_page(self) -> None:
        walk = self.walk()
        self.assertEqual((walk.state, walk.found, walk.why_ended), ("done", 12, "That was the last page."))

    def test_pages_that_lead_in_a_circle_or_bring_nothing_new_end_it(self) -> None:
        self.bodies[f"{BASE}/2"] = page(2, f"{BASE}/1")
        self.portal.bodies = self.bodies
        self.assertEqual(self.walk().why_ended, "The pages lead in a circle.")
        Walk.objects.all().delete()
        ProcrastinateJob.objects.all()._raw_delete("default")
        self.portal.bodies = {**self.bodies, **{f"{BASE}?page={number}": page(1) for number in range(2, 9)}}
        walk = self.walk(pattern=f"{BASE}?page={{page}}")
        self.assertEqual((walk.page, walk.why_ended[:30]), (2, "The last page has nothing that"))

    def test_a_pattern_stands_in_where_the_feed_names_no_pages(self) -> None:
        self.portal.bodies = {
            BASE: page(0),
            f"{BASE}?p=2": page(1),
            f"{BASE}?p=3": page(2),
            f"{BASE}?p=4": page(0, count=0),
        }
        self.assertEqual(
            self.ask("POST", "/count", floor="2026-01-01").json()["why_ended"], "The feed names no older pages."
        )
        walk = self.walk(pattern=f"{BASE}?p={{page}}")
        self.assertEqual((walk.found, walk.why_ended), (6, "The last page is empty."))

    def test_a_pattern_without_its_place_is_refused(self) -> None:
        for pattern in (BASE, "{page}", f"{BASE}{{page}}{{page}}"):
            answer = self.ask("POST", floor="2026-01-01", pattern=pattern)
            self.assertEqual((answer.status_code, answer.json()["faults"][0]["path"]), (422, "pattern"))

    def test_a_page_that_cannot_be_read_ends_it_and_keeps_what_came_before(self) -> None:
        self.portal.bodies = {**self.bodies, f"{BASE}/3": b"<html>no feed</html>"}
        walk = self.walk()
        self.assertEqual((walk.state, walk.found), ("failed", 6))
        self.assertTrue(walk.why_ended.startswith("Page 3 could not be read."))

    def test_there_is_one_at_a_time_and_it_is_stopped(self) -> None:
        self.ask("POST", floor="2026-01-01")
        self.assertEqual(self.ask("POST", floor="2026-01-01").status_code, 409)
        self.ask("DELETE")
        self.carry_on()
        walk = Walk.objects.get()
        self.assertEqual((walk.state, walk.page, walk.why_ended), ("stopped", 0, "It was stopped."))

    def test_it_goes_on_where_a_dead_worker_left_it(self) -> None:
        self.ask("POST", floor="2026-01-01")
        walk = Walk.objects.get()
        Walk.objects.update(state="walking", page=2, next_url=f"{BASE}/3", found=6)
        self.carry_on()
        walk.refresh_from_db()
        self.assertEqual((walk.state, walk.page, walk.found, self.new()), ("done", 4, 12, 6))
