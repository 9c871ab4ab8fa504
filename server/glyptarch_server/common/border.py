"""Checks of all incoming requests, once for all handlers: texts, depth and size.

PostgreSQL stores no NUL and UTF-8 encodes no lone surrogate, but JSON can contain both. Handlers see neither, nor
numbers outside JSON, nor data nested without limit.
"""

import json
import re
from collections.abc import Awaitable, Callable, Mapping, Sequence
from inspect import iscoroutinefunction
from typing import Any, TypeAlias

from django.http import Http404, HttpRequest, HttpResponse, HttpResponseBase
from django.utils.datastructures import MultiValueDict
from django.utils.decorators import sync_and_async_middleware
from glyptarch_core.errors import Fault
from ninja.parser import Parser

from glyptarch_server.common.problems import Invalid, ProblemError, unknown_address

__all__ = ["CheckedParser", "checked_requests", "holds_no_text"]

_NO_TEXT = re.compile("[\x00\ud800-\udfff]")
_DEEPEST = 60
_SHOWN = 5

_Answer: TypeAlias = Callable[[HttpRequest], HttpResponseBase]
_AsyncAnswer: TypeAlias = Callable[[HttpRequest], Awaitable[HttpResponseBase]]


def holds_no_text(text: str) -> bool:
    """Whether a text has a character that cannot be stored: NUL, or half of a surrogate pair."""
    return _NO_TEXT.search(text) is not None


def _refusal(request: HttpRequest) -> HttpResponse | None:
    """Drop cookies that cannot be stored.

    Return 404 for such a path, since no address contains it.
    """
    if any(map(holds_no_text, request.COOKIES.values())):
        request.COOKIES = {name: value for name, value in request.COOKIES.items() if not holds_no_text(value)}
    if holds_no_text(request.path_info):
        if request.path_info.startswith("/api/"):
            return unknown_address(request, Http404())
        return HttpResponse("There is nothing at this address.", status=404, content_type="text/plain; charset=utf-8")
    return None


@sync_and_async_middleware
def checked_requests(get_response: _Answer | _AsyncAnswer) -> _Answer | _AsyncAnswer:
    """Check path and cookies of every request before anything looks into them."""
    if iscoroutinefunction(get_response):

        async def answer_later(request: HttpRequest) -> HttpResponseBase:
            response: HttpResponseBase = _refusal(request) or await get_response(request)
            return response

        return answer_later

    def answer(request: HttpRequest) -> HttpResponseBase:
        response = _refusal(request) or get_response(request)
        assert isinstance(response, HttpResponseBase)  # noqa: S101 - the other kind is handled above
        return response

    return answer


class CheckedParser(Parser):
    """Reads bodies and queries of the API. Raises ProblemError that names what cannot be taken."""

    def parse_body(self, request: HttpRequest) -> Any:  # noqa: ANN401 - any JSON value
        """Read a JSON body (RFC 8259)."""
        try:
            data = json.loads(request.body, parse_constant=_no_constant)
        except RecursionError as error:
            raise _too_deep() from error
        except ValueError as error:
            raise ProblemError(f"The body cannot be read as JSON: {error}.") from error
        faults: list[Fault] = []
        _look_through(data, (), faults)
        if faults:
            raise Invalid("Some texts have a character that cannot be saved. Remove it.", faults=faults[:_SHOWN])
        return data

    def parse_querydict(
        self, data: MultiValueDict[str, str], list_fields: list[str], request: HttpRequest
    ) -> dict[str, Any]:
        """Read the query of an address, or the files of a form, of which the names are checked."""
        texts = {name: [getattr(value, "name", value) or "" for value in values] for name, values in data.lists()}
        faults = [_fault((name,)) for name, values in texts.items() if any(map(holds_no_text, (name, *values)))]
        if faults:
            raise Invalid("The address has a character that cannot be searched for. Remove it.", faults=faults)
        return super().parse_querydict(data, list_fields, request)


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is no number of JSON")


def _too_deep() -> ProblemError:
    return ProblemError(f"The data is nested more than {_DEEPEST} levels deep.")


def _fault(path: Sequence[str | int]) -> Fault:
    name = _NO_TEXT.sub("", ".".join(map(str, path)))
    return Fault(path=name, message="holds NUL or half of a surrogate pair, which no text can hold")


def _look_through(value: Any, path: tuple[str | int, ...], faults: list[Fault]) -> None:  # noqa: ANN401
    if len(path) > _DEEPEST:
        raise _too_deep()
    if isinstance(value, str):
        if holds_no_text(value):
            faults.append(_fault(path))
    elif isinstance(value, Mapping):
        for name, part in value.items():
            _look_through(name, (*path, name), faults)
            _look_through(part, (*path, name), faults)
    elif isinstance(value, list):
        for place, part in enumerate(value):
            _look_through(part, (*path, place), faults)
