"""Domain errors as problem+json (RFC 9457), in one place."""

from collections.abc import Callable, Sequence
from http import HTTPStatus
from typing import Any

from django.conf import settings
from django.core.exceptions import RequestDataTooBig
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from glyptarch_core.campaign import document_path, worded
from glyptarch_core.errors import DocumentError, Fault
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

__all__ = [
    "Conflict",
    "Forbidden",
    "Invalid",
    "NotFound",
    "OldToken",
    "ProblemError",
    "TooMany",
    "Unavailable",
    "install_problem_handlers",
    "problem_response",
    "unknown_address",
]


class ProblemError(Exception):
    """A request that cannot be served.

    The message says why and how to fix it.
    """

    status = HTTPStatus.BAD_REQUEST
    title = "This cannot be done"
    type = "about:blank"

    def __init__(self, detail: str, *, faults: Sequence[Fault] = ()) -> None:
        self.detail = detail
        self.faults = tuple(faults)
        super().__init__(detail)


class NotFound(ProblemError):
    """The named thing does not exist, or the caller may not see it."""

    status = HTTPStatus.NOT_FOUND
    title = "Not found"


class Forbidden(ProblemError):
    """The caller's role does not allow it."""

    status = HTTPStatus.FORBIDDEN
    title = "Not allowed"


class OldToken(Forbidden):
    """The request has no CSRF token, or one older than its sign-in.

    The desk knows this by its type, and renews the token.
    """

    title = "The page is older than the sign-in"
    type = "/problems/old-token"

    def __init__(self) -> None:
        super().__init__("Load the page again, then try once more.")


class Conflict(ProblemError):
    """The request does not fit the present state."""

    status = HTTPStatus.CONFLICT
    title = "It has changed meanwhile"


class Invalid(ProblemError):
    """A value of the request is invalid."""

    status = HTTPStatus.UNPROCESSABLE_ENTITY
    title = "Something is not right"


class TooMany(ProblemError):
    """Asked too often."""

    status = HTTPStatus.TOO_MANY_REQUESTS
    title = "Too many tries"


class Unavailable(ProblemError):
    """Something that the server needs for it is not there now."""

    status = HTTPStatus.SERVICE_UNAVAILABLE
    title = "Not possible now"


def problem_response(
    status: int, title: str, detail: str, faults: Sequence[Fault] = (), *, kind: str = "about:blank"
) -> JsonResponse:
    """Return an answer in the form of RFC 9457, whose ``type`` is the kind."""
    body: dict[str, Any] = {"type": kind, "status": int(status), "title": title, "detail": detail}
    body["faults"] = [{"path": fault.path, "message": fault.message, "hint": fault.hint} for fault in faults]
    return JsonResponse(body, status=int(status), content_type="application/problem+json")


def _on_problem(_request: HttpRequest, problem: ProblemError) -> HttpResponse:
    return problem_response(problem.status, problem.title, problem.detail, problem.faults, kind=problem.type)


# Prefixes of locations that are no part of the document: two of ninja's, and the document itself.
_PLACES = ({"body", "query", "path", "form"}, {"payload"}, {"document"})


def _path(location: Sequence[str | int]) -> str:
    parts = list(location)
    for names in _PLACES:
        if parts and parts[0] in names:
            parts = parts[1:]
    return document_path(parts)


def _on_validation(_request: HttpRequest, error: ValidationError) -> HttpResponse:
    faults = [Fault(path=_path(fault["loc"]), message=worded(fault)) for fault in error.errors]
    detail = "; ".join(f"{fault.path}: {fault.message}" for fault in faults)
    return problem_response(HTTPStatus.UNPROCESSABLE_ENTITY, "Something is not right", detail, faults)


def _on_document(_request: HttpRequest, error: DocumentError) -> HttpResponse:
    return problem_response(HTTPStatus.UNPROCESSABLE_ENTITY, "The rules do not hold", str(error), error.faults)


def unknown_address(_request: HttpRequest, _error: Exception) -> HttpResponse:
    """Return 404 for an unknown API address."""
    return problem_response(HTTPStatus.NOT_FOUND, "Not found", "There is nothing at this address.")


def _on_stranger(_request: HttpRequest, _error: AuthenticationError) -> HttpResponse:
    return problem_response(HTTPStatus.UNAUTHORIZED, "Not signed in", "Sign in first.")


def _on_http(request: HttpRequest, error: HttpError) -> HttpResponse:
    # Ninja wraps the parser's error.
    if isinstance(error.__cause__, ProblemError):
        return _on_problem(request, error.__cause__)
    return problem_response(error.status_code, "This cannot be done", str(error))


def _on_too_large(_request: HttpRequest, _error: RequestDataTooBig) -> HttpResponse:
    most = settings.DATA_UPLOAD_MAX_MEMORY_SIZE >> 20
    detail = f"What was sent is larger than {most} MB, the most that is taken at once."
    return problem_response(HTTPStatus.REQUEST_ENTITY_TOO_LARGE, "Too large", detail)


def install_problem_handlers(api: NinjaAPI) -> None:
    """Make every error of the API come out as problem+json."""
    handlers: dict[type[Exception], Callable[[HttpRequest, Any], HttpResponse]] = {
        ProblemError: _on_problem,
        ValidationError: _on_validation,
        DocumentError: _on_document,
        Http404: unknown_address,
        AuthenticationError: _on_stranger,
        HttpError: _on_http,
        RequestDataTooBig: _on_too_large,
    }
    for error, handler in handlers.items():
        api.add_exception_handler(error, handler)
