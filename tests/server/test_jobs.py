"""The jobs of a worker, the work of a new process, and its signing key."""

from datetime import timedelta
from unittest.mock import patch

from django.db import DatabaseError
from django.test import TestCase
from glyptarch_server import wiring
from glyptarch_server.items.reader import read_pending
from glyptarch_server.posts.models import Post
from glyptarch_server.posts.tasks import bring_out_due
from glyptarch_server.proofs import prove as proofs
from glyptarch_server.proofs import warming
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.tasks.lifecycle import LaterError
from glyptarch_server.tasks.tasks import carry_task

from tests.server.fixtures import NOW, CannedPortal, clock, fill, make_blog, make_campaign, make_source, run


class Jobs(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog, stories=3)
        for name, value in (("clock", lambda: clock), ("fetcher", CannedPortal)):
            standing = patch.object(wiring, name, value)
            standing.start()
            self.addCleanup(standing.stop)

    def test_a_run_is_carried_out_with_what_the_process_is_wired_to(self) -> None:
        begun = begin_run(make_campaign(self.blog), by=None, now=NOW, queue=False)
        with self.assertRaises(LaterError):
            carry_task(begun.task_id)
        read_pending(fetcher=CannedPortal(), clock=clock)  # type: ignore[arg-type]
        carry_task(begun.task_id)
        begun.refresh_from_db()
        self.assertEqual((begun.state, Post.objects.count()), ("done", 3))

    def test_posts_go_out_when_their_time_has_come_and_not_before(self) -> None:
        fill(self.source, [90], published=NOW + timedelta(hours=2))
        run(make_campaign(self.blog, release={"mode": "scheduled"}))
        post = Post.objects.get(state="scheduled")
        bring_out_due(0)
        post.refresh_from_db()
        self.assertEqual(post.state, "scheduled")
        with (
            patch.object(wiring, "clock", lambda: lambda: NOW + timedelta(hours=2)),
            self.assertLogs("glyptarch.posts", "INFO") as said,
        ):
            bring_out_due(0)
        post.refresh_from_db()
        self.assertEqual((post.state, post.out_at), ("published", NOW + timedelta(hours=2)))
        self.assertIn("1 scheduled posts were published", said.output[0])

    def test_a_fresh_process_makes_the_proofs_that_are_asked_for_first(self) -> None:
        lately = make_campaign(self.blog)
        make_campaign(self.blog, "Never run")
        run(lately)
        with patch.object(warming, "make_proof", wraps=proofs.make_proof) as made:
            self.assertEqual(warming.warm(), 1)
        self.assertEqual([call.args[0] for call in made.call_args_list], [lately])

    def test_a_database_that_is_not_ready_keeps_nobody_from_starting(self) -> None:
        with (
            patch.object(warming, "lately_run", side_effect=DatabaseError("no such table")),
            patch.object(warming, "connection") as connection,
            self.assertLogs("glyptarch.runs", "INFO") as said,
        ):
            warming.begin_warming()
            for thread in warming.threading.enumerate():
                if thread.name == "warming":
                    thread.join(5)
        self.assertIn("not warmed up", said.output[0])
        connection.close.assert_called_once()
