"""The API of pages and their readers."""

import re
from collections.abc import Sequence
from dataclasses import asdict
from functools import partial
from http import HTTPStatus
from typing import TYPE_CHECKING, Annotated, Any

from django.core import signing
from django.http import HttpRequest, HttpResponse
from glyptarch_core.errors import ParseError
from glyptarch_core.pages.desk import Looked, css_of, frame_of, list_of, marks_of, point
from glyptarch_core.pages.document import ReaderDocument
from glyptarch_core.pages.reading import ArticleRead, ListRead
from ninja import Query, Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.problems import Invalid, NotFound
from glyptarch_server.common.yaml_text import YamlFault, load_yaml, write_yaml
from glyptarch_server.pages import actions, queries
from glyptarch_server.pages.gathering import read_articles, sample_requests
from glyptarch_server.pages.memory import compare
from glyptarch_server.pages.schemas import (
    ArticleCellOut,
    ArticleTestOut,
    ChangeOut,
    EntryOut,
    KeptPageOut,
    ListTestOut,
    MarksOut,
    MatchIn,
    MendOut,
    OpenIn,
    PageFeedOut,
    PageOut,
    PointedOut,
    PointIn,
    ProposalOut,
    ReaderIn,
    ReaderOut,
    ReaderRowOut,
    ReaderYaml,
    ReadingTallyOut,
    RepeatedOut,
    SaveReaderIn,
    SectionOut,
    TestIn,
)
from glyptarch_server.wiring import Fetched, FetchRequest

if TYPE_CHECKING:
    from glyptarch_server.pages.models import Reader, Snapshot

__all__ = ["router"]

router = Router(tags=["pages"])

_SAMPLE_TITLES = 6
_ASSET_SALT = "glyptarch.pages.asset"
_PLACE_OF_ASSET = re.compile(r"/asset-(\d{1,6})-")
_ASSET_AGE = 24 * 60 * 60
_PICTURES = ("image/png", "image/jpeg", "image/gif", "image/webp", "image/avif")
# Nothing runs in the frame, and it loads only from this server (CSP 3; HTML 4.8.5, sandbox).
_FRAME_POLICY = (
    "default-src 'none'; img-src 'self'; style-src 'self' 'unsafe-inline'; base-uri 'none'; form-action 'none';"
    " frame-ancestors 'self'; sandbox allow-same-origin"
)


def _page(snapshot: "Snapshot", looked: Looked) -> PageOut:
    return PageOut(
        id=snapshot.pk,
        url=snapshot.url,
        title=looked.title,
        kind=looked.kind.value,
        taken_at=snapshot.taken_at,
        words=looked.words,
        lists=[
            ProposalOut(
                list_page=list_.settings,
                count=len(list_.titles),
                titles=list(list_.titles[:_SAMPLE_TITLES]),
            )
            for list_ in looked.lists
        ],
        sections=[SectionOut(url=section.url, name=section.name) for section in looked.sections],
        feeds=[PageFeedOut(url=feed.url, title=feed.title, format=feed.format) for feed in looked.feeds],
    )


@router.post("/blogs/{blog}/pages", response=PageOut, operation_id="openPage")
def open_page(request: HttpRequest, blog: str, payload: OpenIn) -> PageOut:
    """Fetch a page, store it, and return its analysis."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    wanted = FetchRequest(url=payload.url, rendered=payload.rendered, hosts=tuple(payload.hosts))
    snapshot, looked = actions.open_page(owned, wanted, fetcher=wiring.fetcher(), now=wiring.clock()())
    return _page(snapshot, looked)


@router.get("/blogs/{blog}/pages/{number}", response=PageOut, operation_id="getPage")
def get_page(request: HttpRequest, blog: str, number: RowNumber) -> PageOut:
    """Return a stored page and its analysis."""
    snapshot = queries.snapshot_of(blog_for(request.user, blog), number)
    return _page(snapshot, actions.look_again(snapshot))


@router.get("/blogs/{blog}/pages/{number}/frame", operation_id="getPageFrame")
def get_frame(request: HttpRequest, blog: str, number: RowNumber) -> HttpResponse:
    """Return a stored page for a sandboxed frame, without scripts.

    Media are served by this server.
    """
    snapshot = queries.snapshot_of(blog_for(request.user, blog), number)
    try:
        text, addresses = wiring.apart().ask(frame_of, queries.raw_of(snapshot))
    except ParseError as error:
        raise Invalid(str(error)) from error

    return HttpResponse(
        _with_assets(text, addresses, blog, number),
        content_type="text/html; charset=utf-8",
        headers={
            "Content-Security-Policy": _FRAME_POLICY,
            "X-Frame-Options": "SAMEORIGIN",
            "Referrer-Policy": "no-referrer",
            "X-Content-Type-Options": "nosniff",
        },
    )


def _with_assets(text: str, addresses: Sequence[str], blog: str, number: int) -> str:
    """Replace the numbers of assets in a page or style sheet by addresses of this server."""

    def own(match: re.Match[str]) -> str:
        place = int(match[1])
        return _asset(blog, number, addresses[place]) if place < len(addresses) else ""

    return _PLACE_OF_ASSET.sub(own, text)


def _asset(blog: str, number: int, address: str) -> str:
    return f"/api/blogs/{blog}/pages/{number}/asset?of={signing.dumps(address, salt=_ASSET_SALT)}"


@router.get("/blogs/{blog}/pages/{number}/asset", operation_id="getPageAsset")
def get_asset(
    request: HttpRequest, blog: str, number: RowNumber, of: Annotated[str, Query(max_length=4000)]
) -> HttpResponse:
    """Return a picture or style sheet of a stored page. ``of`` is a signed address.

    No other is fetched. Anything else, or an unreachable file, gives 204.
    """
    queries.snapshot_of(blog_for(request.user, blog), number)
    try:
        address = signing.loads(of, salt=_ASSET_SALT, max_age=_ASSET_AGE)
    except signing.BadSignature as error:
        raise NotFound("This is no part of a page that we show.") from error
    answer = wiring.fetcher().fetch_all([FetchRequest(url=address)])[0]
    headers = {"X-Content-Type-Options": "nosniff", "Cache-Control": "private, max-age=3600"}
    headers["Content-Security-Policy"] = "default-src 'none'; sandbox"
    kind = answer.content_type.partition(";")[0].strip().lower() if isinstance(answer, Fetched) else ""
    if not isinstance(answer, Fetched) or kind not in {*_PICTURES, "text/css"}:
        return HttpResponse(status=HTTPStatus.NO_CONTENT, headers=headers)
    if kind in _PICTURES:
        return HttpResponse(answer.body, content_type=kind, headers=headers)
    try:
        css, addresses = wiring.apart().ask(css_of, answer.body.decode("utf-8", "replace"), answer.url)
    except ParseError:
        return HttpResponse(status=HTTPStatus.NO_CONTENT, headers=headers)
    css = _with_assets(css, addresses, blog, number)
    return HttpResponse(css, content_type="text/css; charset=utf-8", headers=headers)


@router.post("/blogs/{blog}/pages/{number}/point", response=list[PointedOut], operation_id="pointAtPage")
def point_at(request: HttpRequest, blog: str, number: RowNumber, payload: PointIn) -> list[PointedOut]:
    """Return selectors for elements that a person picked, longest-lasting first."""
    snapshot = queries.snapshot_of(blog_for(request.user, blog, Role.EDITOR), number)
    try:
        pointed = wiring.apart().ask(
            partial(point, only=payload.only), queries.raw_of(snapshot), payload.examples, payload.without
        )
    except ParseError as error:
        raise Invalid(str(error)) from error
    return [
        PointedOut(
            selector=selector.selector,
            places=list(selector.places),
            samples=list(selector.samples),
            exact=selector.exact,
        )
        for selector in pointed
    ]


@router.post("/blogs/{blog}/pages/{number}/match", response=MarksOut, operation_id="matchInPage")
def match_in(request: HttpRequest, blog: str, number: RowNumber, payload: MatchIn) -> MarksOut:
    """Return the matches of a selector in a stored page, or its error."""
    snapshot = queries.snapshot_of(blog_for(request.user, blog), number)
    try:
        marks = wiring.apart().ask(marks_of, queries.raw_of(snapshot), payload.selector)
    except ParseError as error:
        raise Invalid(str(error)) from error
    return MarksOut(places=list(marks.places), samples=list(marks.samples), error=marks.error, at=marks.at)


@router.post("/blogs/{blog}/pages/{number}/list", response=ListTestOut, operation_id="readListPage")
def read_list_page(request: HttpRequest, blog: str, number: RowNumber, payload: TestIn) -> ListTestOut:
    """Read a stored page as a list by a document."""
    snapshot = queries.snapshot_of(blog_for(request.user, blog), number)
    document = actions.checked_document(payload.document)
    read = wiring.apart().ask(list_of, queries.raw_of(snapshot), document.list_page)
    if not isinstance(read, ListRead):
        raise Invalid(read[1])
    return ListTestOut(
        entries=[
            EntryOut(
                url=entry.url,
                title=entry.title,
                date=entry.date,
                picture=entry.picture,
                price=entry.price,
                excerpt=entry.excerpt[:300],
            )
            for entry in read.entries
        ],
        next_url=read.next_url,
        counts=dict(read.counts),
    )


@router.post("/blogs/{blog}/reader-test", response=list[ArticleTestOut], operation_id="testReader")
def test_reader(request: HttpRequest, blog: str, payload: TestIn) -> list[ArticleTestOut]:
    """Read sample articles by a document.

    Nothing is stored.
    """
    row = blog_for(request.user, blog, Role.EDITOR)
    document = actions.checked_document(payload.document)
    now, hosts = wiring.clock()(), tuple(payload.hosts)

    def request_for(url: str) -> FetchRequest:
        return FetchRequest(url=url, rendered=payload.rendered, hosts=hosts)

    requests = [request_for(url) for url in payload.urls]
    if not requests and document.url:
        requests = sample_requests(document, request_for, fetcher=wiring.fetcher(), now=now)
    kept = partial(compare, row.pk, keep=False)
    rows = read_articles(document, requests, compare=kept, fetcher=wiring.fetcher(), now=now)
    return _with_sameness([_test(url, read) for url, read in rows])


_LONGEST_CELL = 160
_LONGEST_SHOWN = 6000


def _test(url: str, read: ArticleRead | str) -> ArticleTestOut:
    if isinstance(read, str):
        return ArticleTestOut(url=url, kind="", words=0, cells={}, html="", error=read, repeated=[])
    cells = {
        name: ArticleCellOut(
            value=(read.picture if name == "picture" else value)[:_LONGEST_CELL] if name != "text" else "",
            way=read.ways.get(name, ""),
            odd=read.odd.get(name, ""),
        )
        for name, value in read.fields.items()
    }
    if read.date is not None and "date" in cells:
        cells["date"].value = read.date.date().isoformat()
    elif "date" in cells:
        cells["date"].odd = "unreadable"
    shown = read.fields.get("text", "")[:_LONGEST_SHOWN]
    return ArticleTestOut(
        url=url,
        kind=read.kind.value,
        words=read.words,
        cells=cells,
        html=shown,
        error="",
        repeated=[RepeatedOut(**asdict(part)) for part in read.repeated],
    )


_ALIKE_FROM = 3


def _with_sameness(rows: list[ArticleTestOut]) -> list[ArticleTestOut]:
    """Mark values that are the same on all pages: they belong to the site, not to an article."""
    for name in ("title", "date", "description", "picture"):
        values = [row.cells[name].value for row in rows if name in row.cells]
        if len(values) >= _ALIKE_FROM and len(set(values)) == 1:
            for row in rows:
                if name in row.cells:
                    row.cells[name].odd = row.cells[name].odd or "same"
    return rows


@router.get("/blogs/{blog}/readers", response=list[ReaderRowOut], operation_id="listReaders")
def list_readers(request: HttpRequest, blog: str) -> list[ReaderRowOut]:
    """List the page readers of a blog."""
    return [
        ReaderRowOut(
            key=reader.key,
            name=reader.name,
            url=reader.url,
            sources=used,
            drifted_at=reader.drifted_at,
            changed_at=reader.changed_at,
        )
        for reader, used in queries.counted_readers(blog_for(request.user, blog))
    ]


def _reader(row: "Reader") -> ReaderOut:
    page = queries.last_page(row, lists=True)
    return ReaderOut(
        key=row.key,
        name=row.name,
        url=row.url,
        document=queries.document_of(row),
        version=row.version,
        changed_at=row.changed_at,
        mends_itself=row.mends_itself,
        mended_at=row.mended_at,
        drifted_at=row.drifted_at,
        drift=[ChangeOut(**change) for change in row.drift],
        tallies=[ReadingTallyOut.model_validate(shown_tallie) for shown_tallie in queries.shown_tallies(row)],
        page=page.pk if page else None,
        sources=queries.keys_of_sources(row),
        rendered=row.sources.filter(removed_at=None, rendered=True).exists(),
    )


@router.post("/blogs/{blog}/readers", response=ReaderOut, operation_id="makeReader")
def make_reader(request: HttpRequest, blog: str, payload: ReaderIn) -> ReaderOut:
    """Create a page reader."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    document = actions.checked_document(payload.document)
    return _reader(actions.make_reader(owned, payload.name, document, now=wiring.clock()()))


@router.get("/blogs/{blog}/readers/{key}", response=ReaderOut, operation_id="getReader")
def get_reader(request: HttpRequest, blog: str, key: str) -> ReaderOut:
    """Return a page reader with its history."""
    return _reader(queries.reader_of(blog_for(request.user, blog), key))


@router.put("/blogs/{blog}/readers/{key}", response=ReaderOut, operation_id="saveReader")
def save_reader(request: HttpRequest, blog: str, key: str, payload: SaveReaderIn) -> ReaderOut:
    """Change a page reader."""
    reader = queries.reader_of(blog_for(request.user, blog, Role.EDITOR), key)
    document = actions.checked_document(payload.document)
    saved = actions.save_reader(
        reader,
        payload.name,
        document,
        mends_itself=payload.mends_itself,
        begun=payload.version,
        now=wiring.clock()(),
    )
    return _reader(saved)


@router.delete("/blogs/{blog}/readers/{key}", response={204: None}, operation_id="removeReader")
def remove_reader(request: HttpRequest, blog: str, key: str) -> tuple[int, None]:
    """Remove a page reader that no source uses."""
    actions.remove_reader(queries.reader_of(blog_for(request.user, blog, Role.EDITOR), key), now=wiring.clock()())
    return 204, None


@router.get("/blogs/{blog}/readers/{key}/pages", response=list[KeptPageOut], operation_id="listKeptPages")
def list_kept_pages(request: HttpRequest, blog: str, key: str) -> list[KeptPageOut]:
    """Return the stored pages of a reader, so that it can be tried on earlier ones."""
    rows = queries.kept_pages(queries.reader_of(blog_for(request.user, blog), key))
    return [KeptPageOut(id=row.pk, url=row.url, taken_at=row.taken_at, lists=row.lists) for row in rows]


@router.get("/blogs/{blog}/readers/{key}/yaml", response=ReaderYaml, operation_id="exportReader")
def export_reader(request: HttpRequest, blog: str, key: str) -> ReaderYaml:
    """Return a page reader as YAML."""
    row = queries.reader_of(blog_for(request.user, blog), key)
    return ReaderYaml(yaml=write_yaml({"name": row.name, **row.document}))


@router.get("/reader-schema", response=dict[str, Any], operation_id="getReaderSchema")
def get_reader_schema(request: HttpRequest) -> dict[str, Any]:
    """Return the JSON Schema (2020-12) of page readers."""
    del request
    return ReaderDocument.model_json_schema()


@router.post("/blogs/{blog}/reader-yaml", response=ReaderOut, operation_id="importReader")
def import_reader(request: HttpRequest, blog: str, payload: ReaderYaml) -> ReaderOut:
    """Create a page reader from YAML."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    try:
        data = load_yaml(payload.yaml)
    except YamlFault as fault:
        raise Invalid(f"This YAML cannot be read: {fault}.") from fault
    if not isinstance(data, dict):
        raise Invalid("This YAML is no page reader: it has no fields.")
    name = str(data.pop("name", "") or "Page reader")[:300]
    document: ReaderDocument = actions.checked_document(data)
    return _reader(actions.make_reader(owned, name, document, now=wiring.clock()()))


@router.get("/blogs/{blog}/readers/{key}/mend", response=MendOut, operation_id="findMend")
def find_mend(request: HttpRequest, blog: str, key: str) -> MendOut:
    """Return the repair of a reader for the page as it is now."""
    row = queries.reader_of(blog_for(request.user, blog), key)
    repair = actions.find_mend(row)
    return MendOut(
        document=repair.document,
        found=repair.mend.found if repair.mend else 0,
        known=repair.mend.known if repair.mend else 0,
        sure=bool(repair.mend and repair.mend.sure),
        page=repair.page,
    )


@router.post("/blogs/{blog}/readers/{key}/mend", response=ReaderOut, operation_id="takeMend")
def take_mend(request: HttpRequest, blog: str, key: str) -> ReaderOut:
    """Apply the repair found now."""
    row = queries.reader_of(blog_for(request.user, blog, Role.EDITOR), key)
    repair = actions.find_mend(row)
    return _reader(actions.take_mend(row, repair.document, now=wiring.clock()()))
