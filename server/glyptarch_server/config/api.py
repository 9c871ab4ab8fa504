"""The API: the routers of all apps under one schema."""

from typing import Any

from django.http import HttpRequest
from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema
from ninja.security import HttpBearer

from glyptarch_server import wiring
from glyptarch_server.accounts.router import router as accounts
from glyptarch_server.accounts.tokens import user_of_token
from glyptarch_server.archives.router import router as archives
from glyptarch_server.blog_files.router import router as blog_files
from glyptarch_server.blogs.queries import require_membership
from glyptarch_server.blogs.router import router as blogs
from glyptarch_server.campaigns.router import router as campaigns
from glyptarch_server.care.router import router as care
from glyptarch_server.comments.router import router as comments
from glyptarch_server.common.border import CheckedParser
from glyptarch_server.common.problems import install_problem_handlers
from glyptarch_server.common.session_auth import BrowserSession
from glyptarch_server.common.version import VERSION
from glyptarch_server.editions.router import router as editions
from glyptarch_server.feed_lists.router import router as feed_lists
from glyptarch_server.front.router import router as front
from glyptarch_server.items.router import router as items
from glyptarch_server.media.router import router as media
from glyptarch_server.names.router import router as names
from glyptarch_server.notices.router import router as notices
from glyptarch_server.offers.router import router as offers
from glyptarch_server.pages.router import router as pages
from glyptarch_server.people.router import router as people
from glyptarch_server.platforms.router import router as platforms
from glyptarch_server.posts.changes_router import router as post_changes
from glyptarch_server.posts.router import router as posts
from glyptarch_server.posts.takedown_router import router as takedowns
from glyptarch_server.proofs.router import router as proofs
from glyptarch_server.replay.router import router as replay
from glyptarch_server.runs.router import router as runs
from glyptarch_server.services.router import router as services
from glyptarch_server.sources.router import router as sources
from glyptarch_server.tasks.router import router as tasks
from glyptarch_server.today.router import router as today
from glyptarch_server.websub.router import router as websub

__all__ = ["api"]

_PROBLEM = {
    "type": "object",
    "description": "Why something cannot be done (RFC 9457).",
    "required": ["type", "status", "title", "detail", "faults"],
    "properties": {
        "type": {"type": "string"},
        "status": {"type": "integer"},
        "title": {"type": "string"},
        "detail": {"type": "string"},
        "faults": {
            "type": "array",
            "items": {
                "type": "object",
                "required": ["path", "message", "hint"],
                "properties": {name: {"type": "string"} for name in ("path", "message", "hint")},
            },
        },
    },
}


class _TokenAuth(HttpBearer):
    """A program that acts for a person by a key in the Authorization header (RFC 6750)."""

    def authenticate(self, request: HttpRequest, token: str) -> object | None:
        """Return the person that the token acts for."""
        user = user_of_token(token, now=wiring.clock()())
        if user is not None:
            request.user = user
            _ask_for_membership(request)
        return user


class _BrowserAuth(BrowserSession):
    """A person who has signed in."""

    def authenticate(self, request: HttpRequest, key: str | None) -> object | None:
        """Return the person who has signed in."""
        user: object | None = super().authenticate(request, key)
        if user is not None:
            _ask_for_membership(request)
        return user


def _ask_for_membership(request: HttpRequest) -> None:
    """Raise NotFound when the path names a blog on which the person has no role.

    It is asked before bodies are read and before any handler runs, so that no operation can forget it.
    """
    match = request.resolver_match
    slug = match.kwargs.get("blog") if match is not None else None
    if slug is not None:
        require_membership(request.user, str(slug))


class _Api(NinjaAPI):
    """Ninja's API, whose schema also describes the error answer of every operation."""

    def get_openapi_schema(self, **options: Any) -> OpenAPISchema:  # noqa: ANN401
        schema = super().get_openapi_schema(**options)
        schema["components"]["schemas"]["Problem"] = _PROBLEM
        content = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
        for methods in schema["paths"].values():
            for operation in methods.values():
                answers = {str(status): answer for status, answer in operation["responses"].items()}
                operation["responses"] = answers | {"4XX": {"description": "It cannot be done", "content": content}}
        return schema


api = _Api(
    title="Glyptarch",
    version=VERSION,
    auth=[_TokenAuth(), _BrowserAuth()],
    docs_url=None,
    # The written schema is served as a file (``openapi.py``).
    openapi_url=None,
    parser=CheckedParser(),
)
install_problem_handlers(api)
_PARTS = (
    accounts,
    blogs,
    people,
    sources,
    websub,
    archives,
    feed_lists,
    pages,
    platforms,
    items,
    campaigns,
    media,
    posts,
    post_changes,
    takedowns,
    names,
    comments,
    runs,
    proofs,
    replay,
    tasks,
    today,
    notices,
    editions,
    offers,
    services,
    blog_files,
    care,
    front,
)
for part in _PARTS:
    api.add_router("", part)
