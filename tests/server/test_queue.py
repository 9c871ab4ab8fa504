"""Jobs are put on the queue with the change that they follow from: together, or not at all."""

from django.db import transaction
from django.test import TransactionTestCase
from glyptarch_server.common.queue import defer
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.models import Run
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob
from procrastinate.testing import InMemoryConnector

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source


class Queued(TransactionTestCase):
    """As in a worker, whose app has a connection of its own to the queue."""

    def setUp(self) -> None:
        self.own = InMemoryConnector()
        self.enterContext(app.replace_connector(self.own))

    def test_a_job_is_gone_with_the_change_that_failed(self) -> None:
        with self.assertRaises(ZeroDivisionError), transaction.atomic():
            defer("carry_task", lock="pictures:1", task_id=1)
            self.assertEqual(ProcrastinateJob.objects.filter(lock="pictures:1").count(), 1)
            raise ZeroDivisionError
        self.assertEqual(ProcrastinateJob.objects.filter(lock="pictures:1").count(), 0)

    def test_a_run_and_its_job_are_seen_at_one_moment(self) -> None:
        blog = make_blog()
        fill(make_source(blog), range(1))
        begun = begin_run(make_campaign(blog), by=None, now=NOW)
        job = ProcrastinateJob.objects.get(args={"task_id": begun.task_id})
        self.assertEqual((job.args, job.queue_name), ({"task_id": Run.objects.get().task_id}, "runs"))
        self.assertEqual(self.own.jobs, {})
