"""Whether the server lives, whether it is ready, and its metrics."""

import secrets

from django.conf import settings
from django.db import DatabaseError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from prometheus_client import CONTENT_TYPE_LATEST

from glyptarch_server import wiring
from glyptarch_server.care.metrics import metrics_text
from glyptarch_server.care.queries import counts, living_workers, unapplied_migrations

__all__ = ["live", "metrics", "ready"]


def live(request: HttpRequest) -> HttpResponse:
    """Return 200 while the web process answers.

    The database is not asked.
    """
    del request
    return HttpResponse("live\n", content_type="text/plain")


def ready(request: HttpRequest) -> HttpResponse:
    """Return 200 where the database is reachable and migrated, else 503.

    The number of living workers is reported as well, but the web works without one for a while.
    """
    del request
    try:
        missing = unapplied_migrations()
        workers = living_workers(wiring.clock()())
    except DatabaseError:
        return JsonResponse({"ready": False, "database": "away"}, status=503)
    report = {"ready": missing == 0, "database": "there", "migrations_to_apply": missing, "workers": workers}
    return JsonResponse(report, status=200 if missing == 0 else 503)


def metrics(request: HttpRequest) -> HttpResponse:
    """Return the metrics for requests with the configured token.

    404 where no token is configured.
    """
    token: str = settings.GLYPTARCH_METRICS_TOKEN
    sent_token = request.headers.get("Authorization", "").removeprefix("Bearer ")
    if not token or not secrets.compare_digest(sent_token.encode(), token.encode()):
        raise Http404
    return HttpResponse(metrics_text(counts(wiring.clock()())), content_type=CONTENT_TYPE_LATEST)
