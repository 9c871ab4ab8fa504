"""Nothing of a withdrawn source is captured or published, whatever was loaded before."""

from typing import Any
from unittest.mock import patch

from django.test import TestCase
from glyptarch_server.audit.models import Entry
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.models import Membership, Role
from glyptarch_server.common.acting import acting_as
from glyptarch_server.common.problems import Conflict
from glyptarch_server.items.actions import read_and_capture
from glyptarch_server.items.models import Item
from glyptarch_server.posts.models import Post, Takedown
from glyptarch_server.posts.takedown import lift, take_down_post, take_down_source
from glyptarch_server.runs import carry_out as carrying
from glyptarch_server.runs.batches import decide_batch
from glyptarch_server.sources.models import Source, SourceState
from glyptarch_server.sources.readings import due_for_schedule

from tests.server.fixtures import (
    NOW,
    CannedPortal,
    carry_kind,
    clock,
    fill,
    make_blog,
    make_campaign,
    make_source,
    make_user,
    run,
)
from tests.server.test_runs import FEED


class Withdrawn(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog)

    def withdraw(self) -> None:
        take_down_source(self.source, asked_by="The club", reason="", now=NOW)

    def test_while_a_run_decides_nothing_more_of_a_source_is_published(self) -> None:
        fill(self.source, range(12))
        batches = 0

        def decide(*args: Any, **kwargs: Any) -> bool:  # noqa: ANN401
            nonlocal batches
            batches += 1
            room = decide_batch(*args, **kwargs)
            if batches == 2:
                self.withdraw()
            return room

        with patch.object(carrying, "decide_batch", decide):
            run(make_campaign(self.blog), batch=3)
        self.assertEqual(Post.objects.count(), 6)
        self.assertEqual(set(Post.objects.values_list("state", flat=True)), {"binned"})

    def test_a_batch_that_is_loaded_already_is_asked_again_under_the_turn(self) -> None:
        fill(self.source, range(3))
        taken: list[int] = []

        def turn(blog: int) -> None:
            if not taken:
                taken.append(blog)
                self.withdraw()

        with patch("glyptarch_server.runs.batches.take_turn", turn):
            run(make_campaign(self.blog))
        self.assertFalse(Post.objects.exists())

    def test_a_link_that_was_blocked_meanwhile_is_not_published_by_another_source(self) -> None:
        fill(self.source, [1])
        run(make_campaign(self.blog))
        other = make_source(self.blog, "wire")
        fill(other, [1])
        take_down_post(Post.objects.get(), asked_by="x", reason="", now=NOW)
        run(make_campaign(self.blog, "Other", ("wire",), match={"rules": []}))
        self.assertEqual(Post.objects.exclude(state="binned").count(), 0)

    def test_a_run_by_hand_does_not_read_it(self) -> None:
        self.withdraw()
        portal = CannedPortal({self.source.url: FEED})
        run(make_campaign(self.blog), portal)
        self.assertEqual(portal.asked, [])

    def test_a_scheduled_run_does_not_read_it(self) -> None:
        self.assertEqual(due_for_schedule([self.source], now=NOW), [self.source])
        SourceState.objects.update(next_read_at=None)
        self.withdraw()
        self.assertEqual(due_for_schedule([self.source], now=NOW), [])

    def test_a_long_takedown_ends_even_where_its_person_loses_the_right_to_it(self) -> None:
        fill(self.source, range(120))
        run(make_campaign(self.blog, match={"rules": []}))
        edda = make_user("edda")
        add_member(self.blog, edda, Role.EDITOR)
        with acting_as(edda, NOW):
            self.withdraw()
        Membership.objects.filter(user=edda).delete()
        carry_kind("change")
        self.assertFalse(Post.objects.exclude(state="binned").exists())

    def test_lifting_is_in_the_audit(self) -> None:
        self.withdraw()
        lift(Takedown.objects.get(), now=NOW)
        self.assertIsNone(Source.objects.get().blocked_at)
        self.assertEqual(Entry.objects.filter(action="takedown.lifted", blog=self.blog.pk).count(), 1)

    def test_a_person_who_has_it_read_is_told(self) -> None:
        self.withdraw()
        with self.assertRaisesRegex(Conflict, "has been withdrawn"):
            read_and_capture(Source.objects.get(), fetcher=CannedPortal(), clock=clock)  # type: ignore[arg-type]

    def test_an_answer_that_comes_after_it_is_not_kept(self) -> None:
        portal = CannedPortal({self.source.url: FEED})

        def fetch(requests: Any) -> Any:  # noqa: ANN401
            self.withdraw()
            return CannedPortal.fetch_in_batches(portal, requests)

        with patch.object(portal, "fetch_in_batches", fetch):
            run(make_campaign(self.blog), portal)
        self.assertFalse(Item.objects.exists())

    def test_what_is_lifted_is_read_and_published_again(self) -> None:
        self.withdraw()
        Source.objects.update(blocked_at=None)
        run(make_campaign(self.blog), CannedPortal({self.source.url: FEED}))
        self.assertTrue(Post.objects.filter(state="published").exists())
