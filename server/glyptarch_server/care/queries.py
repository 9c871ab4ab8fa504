"""Reads about how the server does."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.db.models import Count, Min, Q
from procrastinate.contrib.django.models import ProcrastinateJob, ProcrastinateWorker

from glyptarch_server.common.lanes import LANES
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.models import Run
from glyptarch_server.sources.models import Reading, Source
from glyptarch_server.tasks.queries import WORKER_SILENT

__all__ = ["Counts", "counts", "living_workers", "unapplied_migrations"]

_LATELY = timedelta(hours=1)


@dataclass(frozen=True, slots=True)
class Counts:
    """Counts at one moment.

    “lately” is the last hour. Ages are in seconds.
    """

    runs_under_way: int
    runs_lately: Mapping[str, int]
    readings_lately: Mapping[str, int]
    jobs_waiting: Mapping[str, int]
    oldest_job: Mapping[str, float]
    workers: int
    sources: Mapping[str, int]
    posts_held: int
    since_last_run: float | None


def unapplied_migrations() -> int:
    """Count the changes of the database that are still to be made."""
    executor = MigrationExecutor(connection)
    return len(executor.migration_plan(executor.loader.graph.leaf_nodes()))


def living_workers(now: datetime) -> int:
    """Count the workers that have been heard of lately."""
    heard_of = ProcrastinateWorker.objects.filter(last_heartbeat__gte=now - timedelta(seconds=WORKER_SILENT))
    # Each lane of a worker gives signs of life of its own.
    return math.ceil(int(heard_of.count()) / len(LANES))


def counts(now: datetime) -> Counts:
    """Count everything that the metrics name. Each query goes by an index or over few rows."""
    since = now - _LATELY
    runs = Run.objects.filter(ended_at__gte=since).values_list("state").annotate(number=Count("*"))
    readings = Reading.objects.filter(at__gte=since).aggregate(
        failed=Count("pk", filter=~Q(error="")),
        unchanged=Count("pk", filter=Q(error="", not_modified=True)),
        read=Count("pk", filter=Q(error="", not_modified=False)),
    )
    waiting = ProcrastinateJob.objects.filter(status="todo").values("queue_name")
    jobs = list(
        waiting.annotate(number=Count("pk", distinct=True), oldest=Min("procrastinateevent__at")).values_list(
            "queue_name", "number", "oldest"
        )
    )
    last = Run.objects.filter(ended_at__isnull=False).order_by("-ended_at").values_list("ended_at", flat=True).first()
    return Counts(
        runs_under_way=Run.objects.filter(ended_at=None).count(),
        runs_lately=dict(runs),
        readings_lately=readings,
        jobs_waiting={queue: number for queue, number, _ in jobs},
        oldest_job={queue: (now - oldest).total_seconds() for queue, _, oldest in jobs if oldest},
        workers=living_workers(now),
        sources=dict(Source.objects.filter(removed_at=None).values_list("state__health").annotate(number=Count("*"))),
        posts_held=Post.objects.filter(state="held").count(),
        since_last_run=(now - last).total_seconds() if last else None,
    )
