"""A real worker, killed in the middle of a run."""

import os
import signal

from django.test import TransactionTestCase
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.models import Decision, Run

from tests.processes import MANAGE, server_group, until
from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source

ITEMS = 240


class KilledWorker(TransactionTestCase):
    lane = "processes"
    available_apps = None

    def test_every_item_is_decided_once_and_no_post_is_lost_or_doubled(self) -> None:
        blog = make_blog()
        fill(make_source(blog), range(ITEMS))
        run = begin_run(make_campaign(blog), by=None, now=NOW)
        group = server_group(GLYPTARCH_RUN_BATCH="2")
        self.addCleanup(group.stop)

        first, _ = group.start("test-worker-1", [*MANAGE, "worker"])
        self.assertTrue(until(lambda: Decision.objects.count() >= 10, seconds=60, process=first))
        os.killpg(first.pid, signal.SIGKILL)
        first.wait()
        decided = Decision.objects.count()
        self.assertLess(decided, ITEMS, "the worker was not killed in the middle")

        second, log = group.start("test-worker-2", [*MANAGE, "worker"])
        done = until(lambda: Run.objects.get(pk=run.pk).state == "done", seconds=90, process=second)
        self.assertTrue(done, log.read_text()[-2000:])
        self.assertEqual(Decision.objects.count(), ITEMS)
        self.assertEqual(Decision.objects.values("item").distinct().count(), ITEMS)
        self.assertEqual(Post.objects.count(), ITEMS)
        self.assertEqual(Post.objects.values("item").distinct().count(), ITEMS)
