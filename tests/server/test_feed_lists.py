"""Lists of feeds: all become sources in one go, each is read, and a report says the rest."""

import base64
import json
from collections.abc import Sequence
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.db import OperationalError, connection
from django.test import TestCase
from django.test.utils import CaptureQueriesContext
from glyptarch_core.item import Right
from glyptarch_core.readers.opml import ListedFeed, ListFault
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.queries import Role
from glyptarch_server.campaigns.queries import campaigns_using, document_of, latest_revision, sources_for
from glyptarch_server.common.problems import Invalid
from glyptarch_server.feed_lists import actions, queries
from glyptarch_server.feed_lists.lifecycle import EntryOutcome
from glyptarch_server.feed_lists.models import FeedList
from glyptarch_server.items.reader import read_pending
from glyptarch_server.sources.models import Source
from glyptarch_server.tasks.carrying import carry
from glyptarch_server.tasks.lifecycle import LaterError
from glyptarch_server.wiring import FetchCode, FetchError

from tests.server.fixtures import NOW, CannedPortal, clock, make_blog, make_campaign, make_source, make_user, run
from tests.server.test_runs import FEED

DOWN = FetchError(FetchCode.SERVER_ERROR, "It has trouble (status 500).", status=500)
WIRE = "https://wire.example/feed"
CLUB = "https://club.example/feed"


def feed(
    name: str, title: str | None = None, *, fault: ListFault | None = None, folders: Sequence[str] = ()
) -> ListedFeed:
    return ListedFeed(
        url=f"https://{name}.example/feed",
        title=name.title() if title is None else title,
        folders=tuple(folders),
        fault=fault,
    )


class ListCase(TestCase):
    def setUp(self) -> None:
        self.mira = make_user()
        self.blog = make_blog("meadow", self.mira)
        self.portal = CannedPortal({f"https://{name}.example/feed": FEED for name in ("club", "wire", "owls")})

    def bring(self, *feeds: ListedFeed, labels: Sequence[str] = (), right: Right | None = None) -> FeedList:
        return actions.bring_in(self.blog, "sky.opml", feeds, labels=labels, right=right, by=self.mira, now=NOW)

    def carry(self, row: FeedList, *, later: timedelta = timedelta(0)) -> None:
        carry(row.task_id or 0, fetcher=self.portal, clock=lambda: NOW + later, gives_way=False)  # type: ignore[arg-type]

    def until_read(self, row: FeedList) -> None:
        """Carry out a list to its end."""
        with self.assertRaises(LaterError):
            self.carry(row)
        read_pending(fetcher=self.portal, clock=clock)  # type: ignore[arg-type]
        self.carry(row)

    def outcomes(self, row: FeedList) -> list[str]:
        return [entry.outcome for entry in queries.entries_of(row)]

    def state(self, row: FeedList) -> str:
        row.refresh_from_db()
        assert row.task is not None
        return row.task.state


class BroughtIn(ListCase):
    def test_every_feed_becomes_a_source_with_its_name_and_folders_and_is_read(self) -> None:
        row = self.bring(feed("club", folders=("Sky", "Clubs")), feed("wire"), labels=["Autumn"])
        self.until_read(row)
        self.assertEqual((self.outcomes(row), self.state(row)), (["read", "read"], "done"))
        club = Source.objects.get(url=CLUB)
        self.assertEqual((club.title, club.labels), ("Club", ["Autumn", "Clubs", "Sky"]))
        self.assertGreater(club.state.item_count, 0)

    def test_all_get_the_right_that_a_person_said_or_an_excerpt(self) -> None:
        for name, right in (("club", Right.LINK), ("wire", None)):
            self.until_read(self.bring(feed(name), right=right))
        self.assertEqual(
            set(Source.objects.values_list("url", "right", "right_said")),
            {(CLUB, "link", True), (WIRE, "excerpt", False)},
        )

    def test_one_without_a_name_is_called_as_it_calls_itself(self) -> None:
        self.portal.bodies[WIRE] = DOWN
        self.until_read(self.bring(feed("owls", ""), feed("wire", "")))
        owls, wire = Source.objects.order_by("pk")
        self.assertEqual((owls.title, wire.title), (owls.state.title, WIRE))
        self.assertTrue(owls.title)

    def test_a_failing_one_is_kept_with_its_reason_and_can_be_read_again(self) -> None:
        self.portal.bodies[WIRE] = DOWN
        row = self.bring(feed("club"), feed("wire"))
        self.until_read(row)
        failed = queries.entries_of(row, outcome=EntryOutcome.FAILED).get()
        self.assertEqual((failed.url, failed.code, failed.detail), (WIRE, "server_error", str(DOWN)))
        self.assertEqual(Source.objects.count(), 2)
        self.portal.bodies[WIRE] = FEED
        self.portal.asked.clear()
        self.assertEqual(actions.read_again(row, by=self.mira, now=NOW), 1)
        self.until_read(row)
        self.assertEqual([request.url for request in self.portal.asked], [WIRE])
        self.assertEqual(self.outcomes(row), ["read", "read"])

    def test_what_is_there_or_named_twice_or_no_address_gets_no_second_source(self) -> None:
        club = make_source(self.blog)
        bad = ListedFeed(url="http://", fault=ListFault.NO_HOST)
        row = self.bring(feed("club", folders=("Sky",)), feed("wire"), feed("wire", fault=ListFault.DOUBLE), bad)
        self.until_read(row)
        self.assertEqual(self.outcomes(row), ["known", "read", "double", "bad"])
        self.assertEqual(queries.entries_of(row)[3].code, "no_host")
        club.refresh_from_db()
        self.assertEqual((club.labels, Source.objects.count()), (["Sky"], 2))

    def test_hundreds_of_folders_around_a_feed_give_twenty_labels_those_of_the_person_first(self) -> None:
        row = self.bring(feed("club", folders=[f"Folder {number}" for number in range(300)]), labels=["ท้องฟ้า"])
        labels = row.entries.get().labels
        self.assertEqual((len(labels), labels[:2]), (20, ["ท้องฟ้า", "Folder 0"]))

    def test_an_empty_list_is_refused(self) -> None:
        with self.assertRaisesRegex(Invalid, "names no feed"):
            self.bring()

    def test_two_of_one_name_are_both_added(self) -> None:
        self.until_read(self.bring(feed("club", "News"), feed("wire", "News")))
        self.assertEqual(list(Source.objects.order_by("pk").values_list("key", flat=True)), ["news", "news-2"])

    def test_one_whose_key_somebody_takes_in_this_moment_gets_another(self) -> None:
        make_source(self.blog, "wire")
        row = self.bring(feed("club", "Wire"))
        answers = [set[str](), {"wire"}]
        looked = patch("glyptarch_server.sources.queries.source_keys", side_effect=lambda *_: answers.pop(0))
        with looked, self.assertRaises(LaterError):
            self.carry(row)
        self.assertEqual(Source.objects.get(url=CLUB).key, "wire-2")


class Interrupted(ListCase):
    def test_after_a_crash_nothing_is_added_twice_or_asked_twice(self) -> None:
        row = self.bring(*(feed(name) for name in ("club", "wire", "owls")))
        with patch.object(actions, "_AT_ONCE", 2):
            with (
                patch.object(actions, "_have_them_read", side_effect=OperationalError),
                self.assertRaises(OperationalError),
            ):
                self.carry(row)
            self.until_read(row)
        self.assertEqual((self.outcomes(row), Source.objects.count()), (["read"] * 3, 3))
        self.assertEqual(len(self.portal.asked), 3)

    def test_the_part_that_was_added_before_a_crash_is_not_added_again(self) -> None:
        row = self.bring(*(feed(name) for name in ("club", "wire", "owls")))
        with patch.object(actions, "_AT_ONCE", 2):
            with (
                patch.object(actions.Carrier, "report", side_effect=OperationalError),
                self.assertRaises(OperationalError),
            ):
                self.carry(row)
            self.assertEqual(self.outcomes(row), ["added", "added", "waiting"])
            self.until_read(row)
        self.assertEqual((self.outcomes(row), Source.objects.count()), (["read"] * 3, 3))

    def test_one_that_never_answers_does_not_hold_up_the_report_for_ever(self) -> None:
        row = self.bring(feed("club"))
        with self.assertRaises(LaterError):
            self.carry(row)
        self.carry(row, later=timedelta(minutes=31))
        entry = queries.entries_of(row).get()
        self.assertEqual((entry.outcome, entry.code), ("failed", "not_read"))

    def test_a_person_who_lost_the_right_adds_nothing(self) -> None:
        row = self.bring(feed("club"))
        add_member(self.blog, self.mira, Role.REVIEWER)
        self.carry(row)
        self.assertEqual((self.state(row), Source.objects.count()), ("failed", 0))


class Numbers(ListCase):
    def test_of_queries_do_not_grow_with_the_feeds(self) -> None:
        counts = []
        for size in (10, 150):
            row = self.bring(*(feed(f"f{size}-{number}", "News") for number in range(size)))
            with self.assertRaises(LaterError), CaptureQueriesContext(connection) as asked:
                self.carry(row)
            counts.append(len(asked))
        self.assertEqual(counts[0], counts[1])


class CampaignOnALabel(ListCase):
    def setUp(self) -> None:
        super().setUp()
        self.until_read(self.bring(feed("club", folders=["Sky"]), feed("wire", folders=["Sky", "Odd"]), feed("owls")))
        rules = {
            "gather": {"sources": ["owls"], "labels": ["Sky"]},
            "release": {"mode": "publish"},
            "match": {"rules": []},
        }
        self.campaign = make_campaign(self.blog, **rules)

    def sources(self) -> list[str]:
        return [source.key for source in sources_for(self.blog, document_of(latest_revision(self.campaign)))]

    def test_takes_the_named_ones_first_and_then_all_with_its_label(self) -> None:
        self.assertEqual(self.sources(), ["owls", "club", "wire"])

    def test_takes_what_gets_the_label_later_and_leaves_what_loses_it(self) -> None:
        Source.objects.filter(key="wire").update(labels=["Odd"])
        Source.objects.create(
            blog=self.blog, key="new", url="https://new.example/", title="New", labels=["Sky"], added_at=NOW
        )
        self.assertEqual(self.sources(), ["owls", "club", "new"])

    def test_decides_their_items(self) -> None:
        finished = run(self.campaign, self.portal)
        decided = finished.decisions.values_list("item__source__key", "left_at").distinct()
        self.assertEqual(set(decided), {(key, "") for key in ("owls", "club", "wire")})

    def test_counts_as_a_user_of_these_sources(self) -> None:
        other = make_source(self.blog, "other")
        using = campaigns_using(self.blog, [other, *Source.objects.filter(key__in=["wire", "owls"])])
        self.assertEqual(
            {key: [row.name for row in rows] for key, rows in using.items()}, {"wire": ["Sky"], "owls": ["Sky"]}
        )


class OverHttp(ListCase):
    def ask(self, method: str, path: str, status: int = 200, **body: object) -> Any:  # noqa: ANN401
        self.client.force_login(self.mira)
        address = f"/api/blogs/meadow/feed-lists{path}"
        answer = self.client.generic(method, address, json.dumps(body), content_type="application/json")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def test_a_file_is_brought_in_and_its_report_is_searched(self) -> None:
        opml = b"""<opml><body><outline text="Sky"><outline text="Ring" xmlUrl="https://ring.example/f"/></outline>
        <outline text="Dome" xmlUrl="https://dome.example/f"/><outline text="Bad" xmlUrl="http://"/></body></opml>"""
        made = self.ask("POST", "", name="a.opml", content=base64.b64encode(opml).decode())
        self.assertEqual((made["counts"], made["under_way"]), ({"waiting": 2, "bad": 1}, True))
        found = self.ask("GET", f"/{made['id']}?search=ring")
        self.assertEqual([(row["title"], row["outcome"]) for row in found["rows"]], [("Ring", "waiting")])
        self.assertEqual(found["labels"], ["Sky"])
        bad = self.ask("GET", f"/{made['id']}?outcome=bad")
        self.assertEqual((bad["total"], bad["rows"][0]["code"]), (1, "no_host"))
        self.assertEqual(self.ask("GET", "")["total"], 1)

    def test_a_list_is_looked_at_before_anything_is_saved(self) -> None:
        make_source(self.blog, "wire")
        opml = b"""<opml><body><outline text="Sky"><outline text="Ring" xmlUrl="https://ring.example/f"/></outline>
        <outline xmlUrl="https://wire.example/feed"/><outline xmlUrl="https://ring.example/f"/><outline xmlUrl=""/></body></opml>"""
        self.client.force_login(self.mira)
        body = json.dumps({"content": base64.b64encode(opml).decode()})
        found = self.client.post("/api/blogs/meadow/feed-list-preview", body, content_type="application/json").json()
        self.assertEqual([found[name] for name in ("fresh", "known", "double", "bad")], [1, 1, 1, 1])
        self.assertEqual(found["folders"], [{"name": "Sky", "feeds": 1}])
        self.assertEqual([feed["known_as"] for feed in found["first"]], ["", "Wire", "", ""])
        self.assertEqual((Source.objects.count(), FeedList.objects.count()), (1, 0))

    def test_addresses_can_be_brought_in_as_well(self) -> None:
        made = self.ask("POST", "", addresses=["ring.example/f", "https://ring.example/f"])
        self.assertEqual(made["counts"], {"waiting": 1, "double": 1})

    def test_what_is_no_list_gets_a_sentence(self) -> None:
        for body in ({"content": "aGVsbG8="}, {}, {"content": "aGVsbG8=", "addresses": ["a"]}):
            self.ask("POST", "", 422, **body)
