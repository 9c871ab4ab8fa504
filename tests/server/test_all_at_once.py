"""Two editors, a worker and a replay on the same posts: every outcome is a valid one."""

import threading
import time
from typing import Any

from django.db import connection
from django.db.models import Count
from django.test import TransactionTestCase
from glyptarch_core.campaign import load_document
from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.actions import save_revision
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.problems import Conflict
from glyptarch_server.posts import changes, editing
from glyptarch_server.posts.changes import Action
from glyptarch_server.posts.models import Change, Post, PostChange
from glyptarch_server.replay import actions, applying
from glyptarch_server.replay.models import ReplayResult
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.models import Decision, Run
from glyptarch_server.tasks.lifecycle import LaterError

from tests.server.fixtures import NOW, carry, fill, make_blog, make_campaign, make_source, run


def _apart(work: Any, failures: list[BaseException]) -> None:  # noqa: ANN401
    try:
        work()
    except BaseException as error:  # noqa: BLE001 - told at the end
        failures.append(error)
    finally:
        connection.close()


def _together(*works: Any) -> list[BaseException]:  # noqa: ANN401
    """Call several functions, each in its own thread.

    Return their errors.
    """
    failures: list[BaseException] = []
    threads = [threading.Thread(target=_apart, args=(work, failures)) for work in works]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(90)
    if any(thread.is_alive() for thread in threads):
        failures.append(TimeoutError("a thread hangs"))
    return failures


def _edits(numbers: list[int], name: str, rounds: int = 1) -> Any:  # noqa: ANN401
    """Return the work of a person who edits posts in turn and continues after conflicts."""

    def work() -> None:
        for _ in range(rounds):
            for number in numbers:
                post = Post.objects.get(pk=number)
                try:
                    editing.edit_post(post, {"title": f"{name} {number}"}, version=post.version, now=NOW)
                except Conflict:
                    continue

    return work


def _in_its_order(row: Run) -> None:
    """Carry out a run as soon as the earlier tasks of its campaign have ended."""
    while True:
        try:
            carry(row, batch=2)
        except LaterError:
            time.sleep(0.05)
        else:
            return


class AllAtOnce(TransactionTestCase):
    def setUp(self) -> None:
        self.blog: Blog = make_blog()
        self.source = make_source(self.blog, stories=12)
        self.campaign: Campaign = make_campaign(self.blog, place={"category": "Sky"})
        run(self.campaign)
        self.numbers = list(Post.objects.order_by("pk").values_list("pk", flat=True))

    def check(self) -> None:
        """Check that no post is doubled and that each post equals its last recorded change."""
        standing = Post.objects.exclude(state="binned", marker=False)
        doubled = standing.values("campaign", "item").annotate(number=Count("pk")).filter(number__gt=1)
        self.assertEqual(list(doubled), [])
        slugs = standing.values("slug").annotate(number=Count("pk")).filter(number__gt=1)
        self.assertEqual(list(slugs), [])
        for post in Post.objects.all():
            records = list(PostChange.objects.filter(post=post).order_by("version"))
            written = [record for record in records if record.version > 1]
            self.assertEqual([one.version for one in written], list(range(2, post.version + 1)))
            for name in ("title", "state"):
                said = [record.after[name] for record in records if name in record.after]
                if said:
                    self.assertEqual(getattr(post, name), said[-1], name)
        self.assertEqual(Change.objects.filter(ended_at=None).count(), 0)

    def test_two_editors_a_run_and_the_bin(self) -> None:
        fill(self.source, range(50, 62))

        def bins() -> None:
            for _ in range(3):
                change = changes.begin_change(self.blog, Action.BIN, {"marker": False}, self.numbers[:6], now=NOW)
                changes.take_back(change, now=NOW)

        failures = _together(
            _edits(self.numbers, "Mira"),
            _edits(self.numbers, "Edda"),
            bins,
            lambda: run(self.campaign, batch=3),
        )
        self.assertEqual(failures, [])
        self.check()
        self.assertEqual(Post.objects.exclude(state="binned").count(), 24)

    def test_two_editors_a_worker_and_a_replay(self) -> None:
        rules = {
            "gather": {"sources": ["club"]},
            "release": {"mode": "publish"},
            "place": {"category": "Night"},
            "shape": {"title": "{{ title }}!"},
            "sift": {"rules": [{"id": "s", "kind": "terms", "mode": "none", "terms": ["number 3"], "field": "title"}]},
        }
        revision = save_revision(self.campaign, load_document(rules), base=1, by=None, note="", now=NOW)
        replay = actions.begin_replay(self.campaign, revision, by=None, now=NOW)
        carry(replay)
        replay.refresh_from_db()
        fill(self.source, range(70, 80))
        applying.begin_applying(replay, outcomes=("changed", "refused", "duplicate"), results=(), by=None, now=NOW)
        later = begin_run(self.campaign, by=None, now=NOW, queue=False)
        failures = _together(
            _edits(self.numbers, "Mira", rounds=2),
            _edits(self.numbers[::-1], "Edda", rounds=2),
            lambda: carry(replay),
            lambda: _in_its_order(later),
        )
        self.assertEqual(failures, [])
        self.check()
        # An edited title is the person's in any order of events; everything else follows the rules.
        for post in Post.objects.filter(pk__in=self.numbers):
            if "title" in post.edited:
                self.assertRegex(post.title, r"^(Mira|Edda) \d+$")
            elif post.state == "published":
                self.assertTrue(post.title.endswith("!"), post.title)
        self.assertEqual(Decision.objects.values("item").distinct().count(), 22)
        self.assertEqual(ReplayResult.objects.filter(chosen=True, post__isnull=False).count(), 0)

    def test_two_take_the_same_change_back(self) -> None:
        change = changes.begin_change(self.blog, Action.BYLINE, {"byline": "Mira"}, self.numbers, now=NOW)
        failures = _together(*[lambda: changes.take_back(change, now=NOW)] * 2)
        self.assertEqual([type(failure) for failure in failures], [Conflict])
        self.check()
        self.assertEqual(Post.objects.filter(byline=None).count(), 12)
