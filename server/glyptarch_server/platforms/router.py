"""The API of platforms and connections."""

from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Annotated, Any
from urllib.parse import urlencode

from django.http import HttpRequest, HttpResponse, HttpResponseRedirect
from glyptarch_core.errors import ParseError
from glyptarch_core.item import MediaKind
from glyptarch_core.platforms import platforms
from glyptarch_core.platforms.asking import Source as Asked
from glyptarch_core.platforms.model import PlatformPage, SignIn
from glyptarch_core.text.foreign_json import load_json
from ninja import Query, Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.address import address_of
from glyptarch_server.common.problems import ProblemError
from glyptarch_server.platforms import actions, queries, signing_in
from glyptarch_server.platforms.gathering import first_answer
from glyptarch_server.platforms.schemas import (
    AskSampleOut,
    AskTestIn,
    AskTestOut,
    ConnectionIn,
    ConnectionOut,
    PlatformOut,
    SaveConnectionIn,
    SecretOut,
    SignInOut,
    UseOut,
    WiderOut,
)
from glyptarch_server.platforms.states import ConnectionState
from glyptarch_server.wiring import FetchError

if TYPE_CHECKING:
    from glyptarch_server.platforms.models import Connection

__all__ = ["router"]

router = Router(tags=["platforms"])


@router.get("/platforms", response=list[PlatformOut], operation_id="listPlatforms")
def list_platforms(request: HttpRequest) -> list[PlatformOut]:
    """List the platforms that sources can be read from."""
    del request
    return [
        PlatformOut(
            key=platform.key,
            name=platform.name,
            purpose=platform.purpose,
            secrets=[
                SecretOut(name=secret.name, label=secret.label, hidden=secret.hidden) for secret in platform.secrets
            ],
            limit_a_day=platform.limit_a_day,
            signs_in=platform.sign_in is SignIn.OAUTH,
            by_words=platform.by_words,
            form=platform.form(),
        )
        for platform in platforms().values()
    ]


def _connections(rows: "Sequence[Connection]") -> list[ConnectionOut]:
    used = queries.used_with(rows, wiring.clock()().date())
    return [_connection_out(row, used.get(row.pk, {})) for row in rows]


def _connection(row: "Connection") -> ConnectionOut:
    return _connections([row])[0]


def _connection_out(row: "Connection", used: Mapping[str, int]) -> ConnectionOut:
    return ConnectionOut(
        key=row.key,
        version=row.version,
        platform=row.platform,
        name=row.name,
        address=row.address,
        state=ConnectionState(row.state),
        detail=row.detail,
        checked_at=row.checked_at,
        waits_until=row.waits_until,
        limit_a_day=queries.limit_of(row),
        used=[UseOut(who=who, used=number) for who, number in sorted(used.items())],
        sources=getattr(row, "sources_using", 0),
    )


@router.get("/blogs/{blog}/connections", response=list[ConnectionOut], operation_id="listConnections")
def list_connections(request: HttpRequest, blog: str) -> list[ConnectionOut]:
    """Return the connections of a blog, without their secrets."""
    return _connections(list(queries.connections_of(blog_for(request.user, blog))))


@router.post("/blogs/{blog}/connections", response=ConnectionOut, operation_id="makeConnection")
def make_connection(request: HttpRequest, blog: str, payload: ConnectionIn) -> ConnectionOut:
    """Store a connection and check it."""
    owned, now = blog_for(request.user, blog, Role.EDITOR), wiring.clock()()
    row = actions.make_connection(
        owned, payload.platform, name=payload.name, address=payload.address, fields=payload.fields, now=now
    )
    return _connection(actions.check(row, fetcher=wiring.fetcher(), now=now))


@router.put("/blogs/{blog}/connections/{key}", response=ConnectionOut, operation_id="saveConnection")
def save_connection(request: HttpRequest, blog: str, key: str, payload: SaveConnectionIn) -> ConnectionOut:
    """Change a connection and check it."""
    row = queries.connection_of(blog_for(request.user, blog, Role.EDITOR), key)
    actions.save_connection(
        row, name=payload.name, address=payload.address, fields=payload.fields, begun=payload.version
    )
    return _connection(actions.check(row, fetcher=wiring.fetcher(), now=wiring.clock()()))


@router.delete("/blogs/{blog}/connections/{key}", response={204: None}, operation_id="removeConnection")
def remove_connection(request: HttpRequest, blog: str, key: str) -> tuple[int, None]:
    """Remove a connection that no source uses."""
    row = queries.connection_of(blog_for(request.user, blog, Role.EDITOR), key)
    actions.remove_connection(row, now=wiring.clock()())
    return 204, None


@router.post("/blogs/{blog}/connections/{key}/check", response=ConnectionOut, operation_id="checkConnection")
def check_connection(request: HttpRequest, blog: str, key: str) -> ConnectionOut:
    """Ask the platform whether the connection works."""
    row = queries.connection_of(blog_for(request.user, blog, Role.EDITOR), key)
    return _connection(actions.check(row, fetcher=wiring.fetcher(), now=wiring.clock()()))


_CALLBACK = "/api/connections/signed-in"


@router.post("/blogs/{blog}/connections/{key}/sign-in", response=SignInOut, operation_id="beginSignIn")
def begin_sign_in(request: HttpRequest, blog: str, key: str) -> SignInOut:
    """Begin to sign in at a platform (OAuth 2, authorization code with PKCE)."""
    row = queries.connection_of(blog_for(request.user, blog, Role.EDITOR), key)
    return SignInOut(address=signing_in.begin_sign_in(row, redirect=f"{address_of(request)}{_CALLBACK}"))


@router.get("/connections/signed-in", response={302: None}, operation_id="endSignIn")
def end_sign_in(
    request: HttpRequest,
    state: Annotated[str, Query(max_length=500)] = "",
    code: Annotated[str, Query(max_length=2000)] = "",
    error: Annotated[str, Query(max_length=200)] = "",
) -> HttpResponse:
    """Finish a platform's sign-in and redirect to the connections.

    A browser requests this, so errors are shown at the desk, not as an API answer.
    """
    now = wiring.clock()()
    try:
        row = signing_in.connection_of_state(state)
        owned = blog_for(request.user, row.blog.slug, Role.EDITOR)
    except ProblemError as problem:
        return _back("/desk/", str(problem))
    desk = f"/desk/{owned.slug}/connections"
    if error:
        signing_in.drop_sign_in(row, state=state)
        return _back(desk, signing_in.refusal_of(error))
    try:
        signing_in.end_sign_in(row, state=state, code=code, fetcher=wiring.fetcher(), now=now)
    except ProblemError as problem:
        return _back(desk, str(problem))
    actions.check(row, fetcher=wiring.fetcher(), now=now)
    return HttpResponseRedirect(desk)


def _back(desk: str, why: str) -> HttpResponse:
    return HttpResponseRedirect(f"{desk}?{urlencode({'refused': why})}")


_LARGEST_SHOWN = 100_000
_SAMPLES = 10


@router.post("/blogs/{blog}/platform-test", response=AskTestOut, operation_id="testPlatform")
def test_platform(request: HttpRequest, blog: str, payload: AskTestIn) -> AskTestOut:
    """Send one request to a platform and return the result.

    Only the quota is changed.
    """
    owned, now = blog_for(request.user, blog, Role.EDITOR), wiring.clock()()
    connection = queries.connection_of(owned, payload.connection) if payload.connection else None
    described = actions.described(payload.platform, payload.parameters)
    refused = actions.take_request(connection, "", (), now=now) if connection else None
    if refused is not None:
        return _nothing(described, refused.message)
    asked = Asked(platform=payload.platform, parameters=payload.parameters, key="test")
    try:
        answer, page = first_answer(asked, payload.words, connection, fetcher=wiring.fetcher())
    except ParseError as error:
        return _nothing(described, str(error))
    if connection is not None:
        actions.note_answer(connection, answer, now=now)
    if isinstance(answer, FetchError):
        return _nothing(described, connection.detail if connection and connection.detail else str(answer))
    shown = _json(answer.body) if payload.platform.startswith("json") else None
    if not isinstance(page, PlatformPage):
        return _nothing(described, str(page), shown)
    tested = _tested(described, page, shown)
    instead = None if page.items else actions.wider(payload.platform, payload.parameters, today=now.date())
    if instead is not None:
        tested.wider = WiderOut(name=instead.name, parameters=instead.parameters.model_dump(mode="json"))
    return tested


def _nothing(described: str, error: str, answer: Any = None) -> AskTestOut:  # noqa: ANN401 - whatever came
    return AskTestOut(described=described, items=[], total=None, more=False, fields={}, answer=answer, error=error)


def _json(body: bytes) -> Any:  # noqa: ANN401
    try:
        return load_json(body) if len(body) <= _LARGEST_SHOWN else None
    except ValueError:
        return None


def _tested(described: str, page: PlatformPage, answer: Any) -> AskTestOut:  # noqa: ANN401
    counts: dict[str, int] = {}
    for item in page.items:
        filled = {
            "title": item.title,
            "text": item.body,
            "summary": item.summary,
            "link": item.link,
            "date": item.published,
            "author": item.authors,
            "picture": item.media,
            "tags": item.categories,
            **item.facts,
        }
        for name, value in filled.items():
            counts[name] = counts.get(name, 0) + bool(value)
    return AskTestOut(
        described=described,
        items=[
            AskSampleOut(
                title=item.title,
                link=item.link,
                published=item.published,
                words=features.words,
                picture=next((medium.url for medium in item.media if medium.kind is MediaKind.PICTURE), ""),
            )
            for item, features in list(zip(page.items, page.features, strict=True))[:_SAMPLES]
        ],
        total=page.total,
        more=bool(page.next),
        fields=counts,
        answer=answer,
        error="" if page.items else "The platform answered, and has nothing for this.",
    )
