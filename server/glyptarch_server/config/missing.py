"""Answers for unknown addresses: a problem document for programs, a page for readers."""

from django.http import HttpRequest, HttpResponse

from glyptarch_server.common.problems import unknown_address
from glyptarch_server.front.views import missing_page

__all__ = ["missing"]


def missing(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Return 404 in the format of the requested area."""
    return (unknown_address if request.path.startswith("/api/") else missing_page)(request, exception)
