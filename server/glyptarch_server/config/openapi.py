"""The OpenAPI document, as stored in the repository."""

from functools import cache
from pathlib import Path

from django.http import HttpRequest, HttpResponse

__all__ = ["SCHEMA", "openapi"]

SCHEMA = Path(__file__).resolve().parents[1] / "common" / "openapi.json"


@cache
def _text() -> bytes:
    return SCHEMA.read_bytes()


def openapi(request: HttpRequest) -> HttpResponse:
    """Return the OpenAPI 3.1 document."""
    del request
    return HttpResponse(_text(), content_type="application/json")
