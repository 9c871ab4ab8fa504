"""Long work of all kinds: progress, stop, healing, fairness, and an end in words."""

import json
from collections.abc import Callable
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.db import IntegrityError, OperationalError, connection, transaction
from django.test import TestCase
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.models import Membership, Role
from glyptarch_server.common import ending
from glyptarch_server.common.problems import Conflict
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.tasks import carrying, kinds, queries
from glyptarch_server.tasks.actions import ask_to_stop, begin_task, take_up_abandoned, thin_tasks, turn_of
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.kinds import Kind
from glyptarch_server.tasks.lifecycle import LaterError, TaskError, TaskState
from glyptarch_server.tasks.models import Task
from glyptarch_server.tasks.tasks import carry_task
from glyptarch_server.wiring import FetcherEndedError
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from tests.server.fixtures import NOW, clock, fill, make_blog, make_campaign, make_source, make_user
from tests.server.test_api import ApiCase

LATER = NOW + timedelta(minutes=1)


class TaskCase(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog(owner=make_user())
        self.ended: list[tuple[int, TaskState]] = []
        self.work: Callable[[Task, Carrier], None] = lambda task, carrier: carrier.report(task.total, task.total)
        for name, settings in (
            ("digging", {}),
            ("sealing", {"can_stop": False}),
            ("copying", {"queue": "media"}),
            ("asking", {"begins_quickly": True}),
        ):
            kind = Kind(name=name, carry=self.do, end=self.end, **settings)  # type: ignore[arg-type]
            self.enterContext(patch.dict(kinds._KINDS, {name: kind}))

    def do(self, task: Task, carrier: Carrier) -> None:
        self.work(task, carrier)

    def end(self, task: Task, state: TaskState, _at: Any) -> None:  # noqa: ANN401
        self.ended.append((task.ref, state))

    def begin(self, ref: int = 1, kind: str = "digging", **settings: Any) -> Task:  # noqa: ANN401
        blog_id = settings.pop("blog_id", self.blog.pk)
        return begin_task(kind, ref, blog_id=blog_id, subject="A hole", now=NOW, total=3, **settings)

    def carry(self, task: Task, *, gives_way: bool = False) -> Task:
        carrying.carry(task.pk, fetcher=None, clock=clock, gives_way=gives_way)  # type: ignore[arg-type]
        task.refresh_from_db()
        return task

    def raising(self, error: BaseException) -> None:
        def work(_task: Task, _carrier: Carrier) -> None:
            raise error

        self.work = work

    def doing(self, *, alive: bool = True) -> None:
        """Let a worker do all jobs."""
        with connection.cursor() as cursor:
            cursor.execute("INSERT INTO procrastinate_workers DEFAULT VALUES RETURNING id")
            worker = cursor.fetchone()[0]
            cursor.execute("UPDATE procrastinate_jobs SET status = 'doing', worker_id = %s", [worker])
            if not alive:
                cursor.execute("UPDATE procrastinate_workers SET last_heartbeat = now() - interval '1 minute'")


class Ends(TaskCase):
    def test_done_when_its_work_is_done_and_its_kind_hears_of_it(self) -> None:
        task = self.carry(self.begin())
        self.assertEqual((task.state, task.done, task.ended_at), ("done", 3, NOW))
        self.assertEqual(self.ended, [(1, TaskState.DONE)])

    def test_once_however_often_its_job_runs(self) -> None:
        task = self.carry(self.begin())
        self.carry(task)
        self.assertEqual(len(self.ended), 1)

    def test_failed_with_the_reason_that_people_read(self) -> None:
        self.raising(TaskError("The hole has fallen in."))
        task = self.carry(self.begin())
        self.assertEqual((task.state, task.failure), ("failed", "The hole has fallen in."))
        self.assertEqual(self.ended, [(1, TaskState.FAILED)])

    def test_failed_without_the_words_of_a_fault_of_ours(self) -> None:
        self.raising(RuntimeError("disk full"))
        with self.assertLogs("glyptarch.tasks") as log:
            task = self.carry(self.begin())
        self.assertEqual(task.state, "failed")
        self.assertIn(f"task {task.pk}", task.failure)
        self.assertNotIn("disk full", task.failure)
        self.assertIn("disk full", str(log.output))

    def test_stopped_between_two_batches(self) -> None:
        task = self.begin()
        self.doing()

        def work(_task: Task, carrier: Carrier) -> None:
            for done in range(1, 4):
                ask_to_stop(task, now=NOW)
                carrier.report(done, 3)

        self.work = work
        task = self.carry(task)
        self.assertEqual((task.state, task.done), ("stopped", 1))

    def test_at_once_where_no_living_worker_has_it(self) -> None:
        waiting, left = self.begin(1), self.begin(2)
        ask_to_stop(waiting, now=NOW)
        self.doing(alive=False)
        ask_to_stop(left, now=NOW)
        self.assertEqual(set(Task.objects.values_list("state", flat=True)), {"stopped"})
        self.assertEqual(self.ended, [(1, TaskState.STOPPED), (2, TaskState.STOPPED)])

    def test_not_by_a_person_where_half_of_it_would_be_worse_than_all(self) -> None:
        with self.assertRaises(Conflict):
            ask_to_stop(self.begin(kind="sealing"), now=NOW)

    def test_as_failed_after_many_starts_without_progress(self) -> None:
        self.raising(OperationalError("the server has gone"))
        task = self.begin()
        for _ in range(12):
            with self.assertRaises(OperationalError):
                self.carry(task)
        self.carry(task)
        self.assertEqual(task.state, "failed")
        self.assertIn("got no further", task.failure)


class GoesOn(TaskCase):
    def test_with_all_its_attempts_once_it_gets_further(self) -> None:
        def work(task: Task, carrier: Carrier) -> None:
            carrier.report(task.done + 1, 100)
            raise OperationalError

        self.work = work
        task = self.begin()
        for _ in range(14):
            with self.assertRaises(OperationalError):
                self.carry(task)
        task.refresh_from_db()
        self.assertEqual((task.state, task.done, task.tries), ("working", 14, 1))

    def test_later_where_its_worker_is_told_to_end(self) -> None:
        self.addCleanup(ending._ending.clear)

        def work(_task: Task, carrier: Carrier) -> None:
            ending.end_soon()
            carrier.report(2, 3)

        self.work = work
        task = self.begin()
        with self.assertRaises(LaterError):
            self.carry(task)
        task.refresh_from_db()
        self.assertEqual((task.state, task.done, task.ended_at, task.tries), ("waiting", 2, None, 0))

    def test_later_where_its_worker_is_told_to_end_while_it_waits_for_an_answer(self) -> None:
        self.raising(FetcherEndedError())
        task = self.begin()
        with self.assertRaises(LaterError):
            self.carry(task)
        task.refresh_from_db()
        self.assertEqual(task.state, "waiting")

    def test_behind_an_earlier_one_with_its_lock_even_if_that_lost_its_place(self) -> None:
        earlier, later = self.begin(1, lock="garden"), self.begin(2, lock="garden")
        with self.assertRaises(LaterError) as raised:
            self.carry(later)
        self.assertGreater(raised.exception.seconds, 0)
        self.carry(earlier)
        self.assertEqual(self.carry(later).state, "done")

    def test_behind_an_earlier_one_whose_job_it_does_not_hold_up(self) -> None:
        for number in range(3):
            self.begin(number)
        earlier = self.begin(7, lock="garden")
        later = self.begin(8, "asking", lock="garden")
        fetched = self.work_off()
        self.assertEqual(fetched[0], later.pk, "it comes before all turns once")
        earlier.refresh_from_db()
        self.assertEqual(earlier.state, "done")
        self.assertEqual(fetched[-1], later.pk, "the end of the earlier one has woken it")
        later.refresh_from_db()
        self.assertEqual(later.state, "done")

    def work_off(self) -> list[int]:
        """Do the jobs that procrastinate gives to a worker, until there is none for now.

        Return the numbers of their tasks.
        """
        numbers: list[int] = []
        with connection.cursor() as cursor:
            while True:
                cursor.execute("SELECT id, args FROM procrastinate_fetch_job_v2(NULL, NULL)")
                job, arguments = cursor.fetchone()
                if job is None:
                    return numbers
                numbers.append(json.loads(arguments)["task_id"])
                try:
                    carrying.carry(numbers[-1], fetcher=None, clock=clock)  # type: ignore[arg-type]
                except LaterError as later:
                    cursor.execute(
                        "UPDATE procrastinate_jobs SET status = 'todo', priority = %s,"
                        " scheduled_at = now() + make_interval(secs => %s) WHERE id = %s",
                        [-later.turn, later.seconds, job],
                    )
                else:
                    cursor.execute("DELETE FROM procrastinate_jobs WHERE id = %s", [job])

    def test_by_the_same_job_which_keeps_its_lock(self) -> None:
        strategy = app.tasks["carry_task"].retry_strategy
        assert strategy is not None
        later = LaterError("others wait")
        later.turn = 7
        job: Any = None
        for error, priority in ((later, -7), (OperationalError(), None)):
            decision = strategy.get_retry_decision(exception=error, job=job)
            assert decision is not None
            self.assertEqual(decision.priority, priority)
        self.assertIsNone(strategy.get_retry_decision(exception=KeyError(), job=job))

    def test_with_the_clock_and_the_fetcher_of_its_process(self) -> None:
        task = self.begin()
        carry_task(task.pk)
        task.refresh_from_db()
        self.assertEqual(task.state, "done")


class AsksAgain(TaskCase):
    """What may have changed since a person asked for it, under the blog's turn."""

    def setUp(self) -> None:
        super().setUp()
        self.ben = make_user("ben")
        add_member(self.blog, self.ben, Role.EDITOR)
        self.work = lambda _task, carrier: carrier.check()

    def test_and_goes_on_where_nothing_has(self) -> None:
        self.assertEqual(self.carry(self.begin(by_id=self.ben.pk)).state, "done")
        self.assertEqual(self.carry(self.begin()).state, "done", "a schedule has no person")

    def test_whether_the_person_may_still_do_it(self) -> None:
        task = self.begin(by_id=self.ben.pk)
        Membership.objects.filter(user=self.ben).update(role=Role.REVIEWER)
        self.assertEqual(self.carry(task).failure, "Ben, who asked for it, may no longer do this on the blog.")
        self.assertEqual(self.carry(self.begin(by_id=self.ben.pk, role=Role.REVIEWER)).state, "done")
        Membership.objects.filter(user=self.ben).delete()
        self.assertEqual(self.carry(self.begin(by_id=self.ben.pk, role=Role.VIEWER)).state, "failed")

    def test_whether_the_person_may_still_sign_in(self) -> None:
        task = self.begin(by_id=self.ben.pk)
        self.ben.is_active = False
        self.ben.save()
        self.assertEqual(self.carry(task).state, "failed")

    def test_whether_the_blog_is_still_there(self) -> None:
        task = self.begin()
        self.blog.removed_at = NOW
        self.blog.save()
        self.assertEqual(self.carry(task).failure, "The blog was removed meanwhile.")

    def test_whether_somebody_stopped_it(self) -> None:
        task = self.begin()
        Task.objects.update(stop_asked=True)
        self.assertEqual(self.carry(task).state, "stopped")


class Heals(TaskCase):
    def setUp(self) -> None:
        super().setUp()
        self.task = self.begin(queue=False)

    def test_a_task_without_a_job_gets_one_and_only_one(self) -> None:
        self.assertEqual(take_up_abandoned(now=NOW), 0, "it has just been put on record")
        with self.assertLogs("glyptarch.tasks", "WARNING"):
            self.assertEqual(take_up_abandoned(now=LATER), 1)
        self.assertEqual(take_up_abandoned(now=LATER), 0)
        self.assertTrue(ProcrastinateJob.objects.filter(args={"task_id": self.task.pk}, status="todo").exists())

    def test_a_task_whose_job_failed_gets_another(self) -> None:
        take_up_abandoned(now=LATER)
        with connection.cursor() as cursor:
            cursor.execute("UPDATE procrastinate_jobs SET status = 'failed'")
        self.assertEqual(take_up_abandoned(now=LATER), 1)

    def test_what_got_nowhere_many_times_ends(self) -> None:
        Task.objects.update(tries=12)
        self.assertEqual(take_up_abandoned(now=LATER), 0)
        self.assertEqual(self.ended, [(1, TaskState.FAILED)])

    def test_one_query_finds_them_however_many_are_under_way(self) -> None:
        take_up_abandoned(now=LATER)
        for number in range(2, 7):
            self.begin(number)
        with self.assertNumQueries(1):
            self.assertEqual(queries.abandoned(before=LATER), [])

    def test_ended_ones_go_after_a_week(self) -> None:
        self.carry(self.task)
        self.begin(2)
        self.assertEqual(thin_tasks(now=NOW + timedelta(days=6)), 0)
        self.assertEqual(thin_tasks(now=NOW + timedelta(days=8)), 1)
        self.assertEqual(Task.objects.get().ref, 2)


class Turns(TaskCase):
    """Blogs take turns, a batch each, however many tasks each has."""

    def test_a_row_has_one_task_of_a_kind_at_a_time(self) -> None:
        self.begin()
        with self.assertRaises(IntegrityError), transaction.atomic():
            self.begin()
        self.begin(kind="sealing")

    def test_a_new_blog_comes_before_the_rest_of_another(self) -> None:
        turns = [self.begin(number).turn for number in range(5)]
        self.assertEqual(turns, [0, 1, 2, 3, 4])
        other = self.begin(9, blog_id=make_blog("heath").pk)
        self.assertEqual(other.turn, 0)
        self.assertEqual(self.begin(5).turn, 5)

    def test_a_new_blog_begins_at_the_turn_that_is_served(self) -> None:
        Task.objects.filter(pk=self.begin(1).pk).update(turn=40)
        Task.objects.filter(pk=self.begin(2).pk).update(turn=41)
        self.assertEqual(self.begin(9, blog_id=make_blog("heath").pk).turn, 40)

    def test_a_run_asks_for_its_sources_before_all_turns(self) -> None:
        make_source(self.blog, "ridge")
        for number in range(3):
            begin_run(make_campaign(self.blog, f"Night {number}", sources=("ridge",)), by=None, now=NOW)
        self.begin(1)
        jobs = ProcrastinateJob.objects.order_by("-priority", "id").values_list("priority", flat=True)
        self.assertEqual(list(jobs), [1, 1, 1, -3])

    def test_queues_have_turns_of_their_own(self) -> None:
        Task.objects.filter(pk=self.begin(1).pk).update(turn=40)
        self.assertEqual(turn_of(self.blog.pk, "copying"), 0)

    def test_one_that_has_worked_for_a_second_gives_way_to_another_blog(self) -> None:
        task, other = self.begin(1), self.begin(9, blog_id=make_blog("heath").pk)
        with patch.object(carrying, "_SECONDS_OF_A_TURN", 0.0), self.assertRaises(LaterError) as raised:
            self.carry(task, gives_way=True)
        task.refresh_from_db()
        self.assertEqual((task.state, task.turn, raised.exception.turn), ("waiting", 1, 1))
        self.assertGreater(task.turn, other.turn)

    def test_nobody_waits_where_all_others_are_held_up_by_a_lock(self) -> None:
        task = self.begin(1, lock="garden")
        self.assertFalse(queries.others_wait(task, "runs"))
        self.begin(2, lock="garden")
        self.assertFalse(queries.others_wait(task, "runs"))
        self.begin(3)
        self.assertTrue(queries.others_wait(task, "runs"))
        self.assertFalse(queries.others_wait(task, "media"))


class OverHttp(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        source = make_source(self.blog, "ridge")
        fill(source, range(3))
        self.run_row = begin_run(make_campaign(self.blog, "Night", sources=("ridge",)), by=self.editor, now=NOW)

    def test_what_goes_on_is_listed_with_its_progress(self) -> None:
        row = Task.objects.filter(pk=self.run_row.task_id)
        row.update(done=10, total=40, phase="deciding", phase_at=NOW - timedelta(seconds=20), state="working")
        with patch("glyptarch_server.wiring.clock", return_value=clock):
            listed = self.call(self.viewer, "GET", "/blogs/meadow/tasks").json()[0]
        self.assertEqual(
            (listed["kind"], listed["subject"], listed["path"]), ("run", "Night", f"runs/{self.run_row.pk}")
        )
        self.assertEqual((listed["done"], listed["total"], listed["seconds_left"]), (10, 40, 60))
        self.assertFalse(listed["can_stop"], "a viewer may not")
        self.assertTrue(self.call(self.editor, "GET", "/blogs/meadow/tasks").json()[0]["can_stop"])

    def test_editors_stop_what_editors_begin_and_viewers_do_not(self) -> None:
        number = self.call(self.viewer, "GET", "/blogs/meadow/tasks").json()[0]["id"]
        self.assertEqual(self.call(self.viewer, "POST", f"/blogs/meadow/tasks/{number}/stop").status_code, 403)
        stopped = self.call(self.editor, "POST", f"/blogs/meadow/tasks/{number}/stop").json()
        self.assertEqual((stopped["state"], stopped["can_stop"]), ("stopped", False))
        self.run_row.refresh_from_db()
        self.assertEqual(self.run_row.state, "stopped")
        self.assertEqual(self.call(self.editor, "POST", "/blogs/meadow/tasks/999/stop").status_code, 404)
