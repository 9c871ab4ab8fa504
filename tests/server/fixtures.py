"""Short ways to a blog with people, sources, items and campaigns, at a fixed time."""

import warnings
from collections.abc import Callable, Iterator, Mapping, Sequence
from datetime import UTC, datetime, timedelta
from typing import Any
from urllib.parse import urlsplit

from django.core.signing import Signer
from django.test import override_settings
from glyptarch_core.campaign import load_document
from glyptarch_core.item import Item as CoreItem
from glyptarch_server.accounts.actions import ensure_user
from glyptarch_server.accounts.models import User
from glyptarch_server.blogs.actions import add_member, create_blog
from glyptarch_server.blogs.models import Blog, Role
from glyptarch_server.campaigns.actions import create_campaign
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.items.capturing import capture
from glyptarch_server.media.models import Picture
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.carry_out import carry_out_alone
from glyptarch_server.runs.models import Run
from glyptarch_server.sources.models import Source
from glyptarch_server.tasks.actions import ask_to_stop
from glyptarch_server.tasks.models import Task
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchRequest

NOW = datetime(2026, 11, 24, 12, tzinfo=UTC)
PASSWORD = "a long password"  # noqa: S105 - of users that exist for the length of a test


class CannedPortal:
    """A fetcher that gives prepared answers, and nothing for any other address."""

    def __init__(self, bodies: Mapping[str, bytes | FetchError] | None = None) -> None:
        self.bodies = dict(bodies or {})
        self.asked: list[FetchRequest] = []

    def fetch_each(self, requests: Sequence[FetchRequest]) -> Iterator[tuple[int, Fetched | FetchError]]:
        self.asked.extend(requests)
        return ((place, self._answer(request)) for place, request in enumerate(requests))

    def fetch_in_batches(self, requests: Sequence[FetchRequest]) -> Iterator[list[tuple[int, Fetched | FetchError]]]:
        for one in self.fetch_each(requests):
            yield [one]

    def fetch_all(self, requests: Sequence[FetchRequest]) -> list[Fetched | FetchError]:
        return [answer for _, answer in self.fetch_each(requests)]

    def _answer(self, request: FetchRequest) -> Fetched | FetchError:
        body = self.bodies.get(request.url, b"")
        try:
            urlsplit(request.url)
        except ValueError:
            return FetchError(FetchCode.BAD_ADDRESS, f"“{request.url}” is not an address.")
        if isinstance(body, FetchError):
            return body
        return Fetched(
            url=request.url,
            body=body,
            not_modified=not body,
            content_type="",
            etag='"1"',
            last_modified="",
            milliseconds=3,
        )


def clock() -> datetime:
    return NOW


def make_user(name: str = "mira") -> User:
    return ensure_user(name, PASSWORD, full_name=name.title())


def make_blog(slug: str = "meadow", owner: User | None = None) -> Blog:
    blog = create_blog(slug=slug, title=slug.title(), tagline="", language="en", now=NOW)
    if owner:
        add_member(blog, owner, Role.OWNER)
    return blog


def make_source(blog: Blog, key: str = "club", stories: int = 0) -> Source:
    source = Source.objects.create(
        blog=blog, key=key, url=f"https://{key}.example/feed", title=key.title(), right="full", added_at=NOW
    )
    if stories:
        fill(source, range(stories))
    return source


def make_picture(blog: Blog, digest: str) -> Picture:
    """Create the row of a stored picture, without its files."""
    return Picture.objects.create(
        blog=blog, hash=digest, width=640, height=400, widths=[640], fallback="640.jpg", size=3, made_at=NOW
    )


def story(number: int, **fields: Any) -> CoreItem:  # noqa: ANN401
    values: dict[str, Any] = {
        "source": "any",
        "identity": f"n{number}",
        "link": f"https://club.example/{number}",
        "title": f"Story number {number} of the night",
        "body": f"<p>Words of story {number}, told in the field by the dome.</p>",
        "published": NOW - timedelta(hours=number + 1),
    }
    return CoreItem(**{**values, **fields})


def fill(source: Source, numbers: Any, **fields: Any) -> int:  # noqa: ANN401
    return capture(source, [story(number, **fields) for number in numbers], now=NOW).fresh


def make_campaign(blog: Blog, name: str = "Sky", sources: tuple[str, ...] = ("club",), **parts: Any) -> Campaign:  # noqa: ANN401
    rules = {"gather": {"sources": list(sources)}, "release": {"mode": "publish"}, **parts}
    return create_campaign(blog, name, load_document(rules), by=None, now=NOW)


def comment_form(post: Post, **written: str) -> dict[str, str]:
    """Return a comment as the form of the post's page sends it."""
    return {"name": "Ida", "comment": "We saw it.", "form": Signer(salt="comments").sign(str(post.pk)), **written}


def text_of(answer: Any) -> str:  # noqa: ANN401 - whatever the test client gives
    """Return the text of an answer, also of an asynchronous stream."""
    if not getattr(answer, "streaming", False):
        return str(answer.content.decode())
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        return b"".join(answer).decode()


def run(campaign: Campaign, portal: CannedPortal | None = None, batch: int = 50) -> Run:
    first_run = begin_run(campaign, by=None, now=NOW, queue=False)
    carry(first_run, portal, batch=batch)
    first_run.refresh_from_db()
    return first_run


def carry(
    row: Any,  # noqa: ANN401 - a run, a replay, a change, a walk
    portal: Any = None,  # noqa: ANN401 - whatever stands for the fetcher
    *,
    batch: int = 50,
    at: Callable[[], datetime] = clock,
) -> None:
    """Carry out the task of a row, as a worker does."""
    carry_task(type(row).objects.get(pk=row.pk).task_id, portal, batch=batch, at=at)


def carry_task(
    number: int,
    portal: Any = None,  # noqa: ANN401 - whatever stands for the fetcher
    *,
    batch: int = 50,
    at: Callable[[], datetime] = clock,
) -> None:
    with override_settings(GLYPTARCH_RUN_BATCH=batch):
        carry_out_alone(number, fetcher=portal or CannedPortal(), clock=at)


def stop(row: Any) -> None:  # noqa: ANN401 - a row with a task
    ask_to_stop(type(row).objects.get(pk=row.pk).task, now=NOW)


def carry_kind(kind: str, portal: Any = None, *, at: Callable[[], datetime] = clock) -> None:  # noqa: ANN401 - as above
    """Carry out all tasks of a kind that are under way."""
    for number in Task.objects.filter(kind=kind, ended_at=None).values_list("pk", flat=True):
        carry_task(number, portal, at=at)
