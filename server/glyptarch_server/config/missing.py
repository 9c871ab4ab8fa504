"""What is answered where there is nothing: a problem to a program, a page to a reader."""

from django.http import HttpRequest, HttpResponse

from glyptarch_server.common.problems import unknown_address
from glyptarch_server.front.views import missing_page

__all__ = ["missing"]


def missing(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Answer in the way of whoever asks there."""
    return (unknown_address if request.path.startswith("/api/") else missing_page)(request, exception)
