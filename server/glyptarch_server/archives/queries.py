"""Reads about walks."""

from glyptarch_server.archives.lifecycle import UNDER_WAY
from glyptarch_server.archives.models import Walk
from glyptarch_server.sources.models import Source

__all__ = ["last_walk", "under_way"]


def last_walk(source: Source) -> Walk | None:
    """Return the latest walk of a source."""
    return Walk.objects.filter(source=source).order_by("-asked_at", "-pk").first()


def under_way(source: Source) -> Walk | None:
    """Return the walk of a source that has not ended."""
    return Walk.objects.filter(source=source, state__in=list(UNDER_WAY)).select_related("task").first()
