"""The metrics, in the text format of Prometheus."""

from collections.abc import Iterator, Mapping

from prometheus_client import CollectorRegistry, generate_latest
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.registry import Collector

from glyptarch_server.care.queries import Counts

__all__ = ["metrics_text"]


def _labelled(name: str, text: str, label: str, values: Mapping[str, float]) -> GaugeMetricFamily:
    gauge = GaugeMetricFamily(name, text, labels=[label])
    for key, value in values.items():
        gauge.add_metric([key], value)
    return gauge


class _Counted(Collector):
    def __init__(self, counted: Counts) -> None:
        self._counted = counted

    def collect(self) -> Iterator[GaugeMetricFamily]:
        """Yield every metric."""
        now = self._counted
        yield GaugeMetricFamily("glyptarch_runs_under_way", "Runs that have not ended.", now.runs_under_way)
        yield _labelled("glyptarch_runs_last_hour", "Runs that ended in the last hour.", "state", now.runs_lately)
        text = "Readings of sources in the last hour."
        yield _labelled("glyptarch_fetches_last_hour", text, "result", now.readings_lately)
        yield _labelled("glyptarch_jobs_waiting", "Jobs that wait for a worker.", "queue", now.jobs_waiting)
        text = "Age of the job that has waited longest."
        yield _labelled("glyptarch_oldest_job_seconds", text, "queue", now.oldest_job)
        yield GaugeMetricFamily("glyptarch_workers", "Workers that have been heard of lately.", now.workers)
        yield _labelled("glyptarch_sources", "Sources by their health.", "health", now.sources)
        yield GaugeMetricFamily("glyptarch_posts_held", "Posts that are held for a person.", now.posts_held)
        if now.since_last_run is not None:
            text = "Time since a run ended last."
            yield GaugeMetricFamily("glyptarch_last_run_age_seconds", text, now.since_last_run)


def metrics_text(counted: Counts) -> bytes:
    """Write counts as Prometheus reads them (text format 0.0.4)."""
    registry = CollectorRegistry()
    registry.register(_Counted(counted))
    return generate_latest(registry)
