"""The API that adds and reads sources, captures their items, and stores samples."""

from datetime import datetime
from typing import TYPE_CHECKING, Annotated, Self

from django.http import HttpRequest
from ninja import Query, Router, Schema
from pydantic import Base64Bytes, Field, StringConstraints, model_validator

from glyptarch_server import wiring
from glyptarch_server.accounts.queries import person_of
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.out import Out
from glyptarch_server.items import actions, page_pictures, queries
from glyptarch_server.sources.queries import source_of, sources_by_key, sources_labelled
from glyptarch_server.sources.schemas import AddSourceIn, ReadingOut

if TYPE_CHECKING:
    from glyptarch_server.items.models import Sample
    from glyptarch_server.sources.models import Source

__all__ = ["router"]

router = Router(tags=["sources"])


class AddedOut(Out):
    """The key of a new source, the number of captured items, and the source with the same items."""

    key: str
    title: str
    captured: int
    same_as: str


@router.post("/blogs/{blog}/new-source", response=AddedOut, operation_id="addSource")
def add_source(request: HttpRequest, blog: str, payload: AddSourceIn) -> AddedOut:
    """Make an address a source, and capture its items."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    added = actions.add_and_capture(
        owned, payload.url, payload.title, right=payload.right, fetcher=wiring.fetcher(), now=wiring.clock()()
    )
    same_as = added.same_as.title if added.same_as else ""
    return AddedOut(key=added.source.key, title=added.source.title, captured=added.captured, same_as=same_as)


@router.post("/blogs/{blog}/sources/{key}/read", response=ReadingOut, operation_id="readSource")
def read_source(request: HttpRequest, blog: str, key: str) -> ReadingOut:
    """Read a source now and capture new items."""
    source = source_of(blog_for(request.user, blog, Role.EDITOR), key)
    reading = actions.read_and_capture(source, fetcher=wiring.fetcher(), clock=wiring.clock())
    return ReadingOut.model_validate(reading, from_attributes=True)


class TakePageIn(Schema):
    """The address of one page."""

    url: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=2000)]


class TakenPageOut(Out):
    """An imported page: its page reader, empty for unknown sites, and whether it is new."""

    title: str
    words: int
    source: str
    source_title: str
    reader: str
    fresh: bool


@router.post("/blogs/{blog}/taken-pages", response=TakenPageOut, operation_id="takePage")
def take_page(request: HttpRequest, blog: str, payload: TakePageIn) -> TakenPageOut:
    """Capture one page by its address, to be used by any campaign."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    taken = actions.take_page(owned, payload.url, fetcher=wiring.fetcher(), now=wiring.clock()())
    return TakenPageOut(
        title=taken.title,
        words=taken.words,
        source=taken.source.key,
        source_title=taken.source.title,
        reader=taken.reader,
        fresh=taken.fresh,
    )


class CountedOut(Out):
    """A name, and how many items carry it."""

    name: str
    count: int


class SourceFactsOut(Out):
    """Facts about a source's newest items: filled fields, average words, most frequent names."""

    items: int
    fields: dict[str, int]
    words: int
    categories: list[CountedOut]
    hashtags: list[CountedOut]


@router.get("/blogs/{blog}/sources/{key}/facts", response=SourceFactsOut, operation_id="getSourceFacts")
def get_source_facts(request: HttpRequest, blog: str, key: str) -> SourceFactsOut:
    """Return facts about the newest items of a source."""
    facts = queries.facts_of(source_of(blog_for(request.user, blog), key))
    return SourceFactsOut(
        items=facts.items,
        fields=dict(facts.fields),
        words=facts.words,
        categories=[CountedOut(name=name, count=count) for name, count in facts.categories],
        hashtags=[CountedOut(name=name, count=count) for name, count in facts.hashtags],
    )


class PageTextsOut(Out):
    """Outcomes of fetching a source's pages for texts, and the number not fetched yet."""

    outcomes: dict[str, int]
    waiting: int
    titles: list[str] = Field(description="Titles of the newest items whose pages were not asked yet.")
    under_way: bool


class AskPagesIn(Schema):
    """Whether pages that gave no text are asked again."""

    again: bool = False


def _page_texts(source: "Source") -> PageTextsOut:
    texts = queries.page_texts(source)
    return PageTextsOut(
        outcomes=dict(texts.outcomes), waiting=texts.waiting, titles=list(texts.titles), under_way=texts.under_way
    )


@router.get("/blogs/{blog}/sources/{key}/texts", response=PageTextsOut, operation_id="getPageTexts")
def get_page_texts(request: HttpRequest, blog: str, key: str) -> PageTextsOut:
    """Return the outcomes of fetching a source's pages for texts."""
    return _page_texts(source_of(blog_for(request.user, blog), key))


@router.post("/blogs/{blog}/sources/{key}/texts", response=PageTextsOut, operation_id="askPages")
def ask_pages(request: HttpRequest, blog: str, key: str, payload: AskPagesIn) -> PageTextsOut:
    """Begin to ask the pages of a source for the texts of items that it has captured already."""
    source = source_of(blog_for(request.user, blog, Role.EDITOR), key)
    page_pictures.ask_pages(source, again=payload.again, by=person_of(request), now=wiring.clock()())
    return _page_texts(source)


_LARGEST_SAMPLE = 4_000_000
"""Bytes; Base64 makes four of three."""


class SampleIn(Schema):
    """A feed for proofs: an address to fetch once, or the bytes of a file in Base64 (RFC 4648)."""

    address: Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000)] = ""
    content: Base64Bytes = Field(default=b"", max_length=_LARGEST_SAMPLE * 4 // 3 + 4)
    name: str = Field(default="", max_length=300)

    @model_validator(mode="after")
    def _one_of_them(self) -> Self:
        if bool(self.address) == bool(self.content):
            raise ValueError("give an address, or the content of a feed")
        return self


class SampleRowOut(Out):
    """A sample in a list."""

    id: int
    name: str
    items: int
    made_at: datetime


def _sample(row: "Sample") -> SampleRowOut:
    return SampleRowOut(id=row.pk, name=row.name, items=row.items, made_at=row.made_at)


@router.get("/blogs/{blog}/samples", response=list[SampleRowOut], operation_id="listSamples")
def list_samples(request: HttpRequest, blog: str) -> list[SampleRowOut]:
    """Return the samples of a blog, newest first."""
    return [_sample(row) for row in queries.samples_of(blog_for(request.user, blog))]


@router.post("/blogs/{blog}/samples", response=SampleRowOut, operation_id="keepSample")
def keep_sample(request: HttpRequest, blog: str, payload: SampleIn) -> SampleRowOut:
    """Store a feed for proofs.

    The newest twenty stay.
    """
    owned = blog_for(request.user, blog, Role.EDITOR)
    now = wiring.clock()()
    if payload.address:
        return _sample(actions.sample_from_address(owned, payload.address, fetcher=wiring.fetcher(), now=now))
    return _sample(actions.keep_sample(owned, payload.content, name=payload.name, now=now))


class SampleNameIn(Schema):
    """Another name for a sample."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]


@router.patch("/blogs/{blog}/samples/{int:number}", response=SampleRowOut, operation_id="renameSample")
def rename_sample(request: HttpRequest, blog: str, number: RowNumber, payload: SampleNameIn) -> SampleRowOut:
    """Rename a sample."""
    sample = queries.sample_of(blog_for(request.user, blog, Role.EDITOR), number)
    return _sample(actions.rename_sample(sample, payload.name))


@router.delete("/blogs/{blog}/samples/{int:number}", response={204: None}, operation_id="removeSample")
def remove_sample(request: HttpRequest, blog: str, number: RowNumber) -> tuple[int, None]:
    """Remove a sample."""
    actions.remove_sample(queries.sample_of(blog_for(request.user, blog, Role.EDITOR), number))
    return 204, None


class SeenCategoryOut(Out):
    """A category that sources give their items, and how many of their newest items carry it."""

    name: str
    count: int


@router.get("/blogs/{blog}/seen-categories", response=list[SeenCategoryOut], operation_id="listSeenCategories")
def list_seen_categories(
    request: HttpRequest,
    blog: str,
    sources: Annotated[str, Query(max_length=8000)] = "",
    labels: Annotated[str, Query(max_length=4000)] = "",
) -> list[SeenCategoryOut]:
    """Return the categories of sources' items, most frequent first.

    ``sources`` and ``labels`` are comma-separated.
    """
    owned = blog_for(request.user, blog)
    chosen = {*sources_by_key(owned, sources.split(",")).values(), *sources_labelled(owned, labels.split(","))}
    return [SeenCategoryOut(name=name, count=count) for name, count in queries.seen_categories(chosen)]
