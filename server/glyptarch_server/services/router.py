"""The API of language services."""

from datetime import UTC, timedelta
from typing import TYPE_CHECKING

from django.http import HttpRequest
from glyptarch_core.editions.described import READY
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.services import actions, queries
from glyptarch_server.services.asking import try_service
from glyptarch_server.services.schemas import (
    AskedAgainOut,
    BilledOut,
    ReadyServiceOut,
    SaveServiceIn,
    ServiceIn,
    ServiceOut,
    ServicePageOut,
    ServiceState,
    TryServiceIn,
    TryServiceOut,
)

if TYPE_CHECKING:
    from glyptarch_server.services.models import Service

__all__ = ["router"]

router = Router(tags=["services"])
_BILLED = timedelta(days=30)


def _service(row: "Service") -> ServiceOut:
    document = queries.document_of_service(row)
    return ServiceOut(
        key=row.key,
        version=row.version,
        name=row.name,
        document=row.document,
        has_secret=bool(row.sealed),
        most_a_day=row.most_a_day,
        price=row.price,
        currency=row.currency,
        state=ServiceState(row.state),
        detail=row.detail,
        checked_at=row.checked_at,
        waits_until=row.waits_until,
        sent_today=queries.sent_on(row, wiring.clock()().astimezone(UTC).date()),
        tasks=list(document.tasks),
    )


@router.get("/services/ready", response=list[ReadyServiceOut], operation_id="listReadyServices")
def list_ready_services(request: HttpRequest) -> list[ReadyServiceOut]:
    """List descriptions of language services to begin with."""
    del request
    return [ReadyServiceOut(key=key, document=document.model_dump(mode="json")) for key, document in READY.items()]


@router.get("/blogs/{blog}/services", response=ServicePageOut, operation_id="listServices")
def list_services(request: HttpRequest, blog: str) -> ServicePageOut:
    """Return the language services of a blog, without their secrets."""
    owned = blog_for(request.user, blog)
    counts = queries.counts_of(owned)
    return ServicePageOut(services=[_service(row) for row in queries.services_of(owned)], **counts)


@router.post("/blogs/{blog}/services", response=ServiceOut, operation_id="makeService")
def make_service(request: HttpRequest, blog: str, payload: ServiceIn) -> ServiceOut:
    """Store a language service."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    return _service(actions.make_service(owned, **payload.dict(), now=wiring.clock()()))


@router.put("/blogs/{blog}/services/{key}", response=ServiceOut, operation_id="saveService")
def save_service(request: HttpRequest, blog: str, key: str, payload: SaveServiceIn) -> ServiceOut:
    """Change a language service."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    row = queries.service_of(owned, key)
    values = payload.dict()
    begun = values.pop("version")
    actions.save_service(row, **values, begun=begun)
    return _service(row)


@router.post("/blogs/{blog}/services-again", response=AskedAgainOut, operation_id="askServicesAgain")
def ask_again(request: HttpRequest, blog: str) -> AskedAgainOut:
    """Ask again about all texts that stay as they were, because no answer could be used."""
    owned, now = blog_for(request.user, blog, Role.EDITOR), wiring.clock()()
    texts = actions.ask_again(owned, now=now)
    task = actions.begin_asking(owned.pk, now=now, by_id=request.user.pk).pk if texts else None
    return AskedAgainOut(texts=texts, task=task)


@router.get("/blogs/{blog}/services/{key}/bill", response=list[BilledOut], operation_id="getServiceBill")
def get_bill(request: HttpRequest, blog: str, key: str) -> list[BilledOut]:
    """Return what was sent to a language service in the last thirty days, by campaign."""
    row = queries.service_of(blog_for(request.user, blog), key)
    since = (wiring.clock()() - _BILLED).astimezone(UTC).date()
    return [
        BilledOut(campaign=campaign, requests=requests, texts=texts, characters=characters, charged=charged)
        for campaign, requests, texts, characters, charged in queries.bill_of(row, since)
    ]


@router.post("/blogs/{blog}/services/{key}/try", response=TryServiceOut, operation_id="tryService")
def try_one(request: HttpRequest, blog: str, key: str, payload: TryServiceIn) -> TryServiceOut:
    """Ask a language service about one text, and show what it answers. It may cost something."""
    row = queries.service_of(blog_for(request.user, blog, Role.EDITOR), key)
    tried = try_service(
        row,
        task=payload.task,
        text=payload.text,
        source=payload.source,
        target=payload.target,
        fetcher=wiring.fetcher(),
        now=wiring.clock()(),
    )
    return TryServiceOut(
        answer=tried.answer,
        fault=tried.fault,
        detail=tried.detail,
        charged=tried.charged,
        milliseconds=tried.milliseconds,
    )
