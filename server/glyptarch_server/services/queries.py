"""Reads about language services, and the text memory of a blog."""

from collections import Counter
from collections.abc import Collection, Hashable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from decimal import Decimal
from typing import Any

from django.db.models import Count, Q, QuerySet, Sum
from glyptarch_core.editions.described import ServiceDocument
from glyptarch_core.language_services import Answer, Ask, FixedWord, TextMemory, TextTask

from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import NotFound
from glyptarch_server.services.models import Service, ServiceUse, TextRow

__all__ = [
    "KeptTexts",
    "TextsCost",
    "ask_of_row",
    "bill_of",
    "costs_of",
    "counts_of",
    "document_of_service",
    "has_answers_since",
    "sent_on",
    "service_of",
    "services_by_key",
    "services_of",
    "spent_campaigns",
    "trouble_of",
    "unanswered",
]

_MOST = 100
_GOOD = ("valid", "unchecked")
_MOST_AT_ONCE = 10_000
_MOST_BILLED = 500


class KeptTexts(TextMemory):
    """The text memory of a blog. One query for each ten thousand questions."""

    def __init__(self, blog_id: int) -> None:
        self._blog_id = blog_id

    @property
    def stamp(self) -> Hashable:
        """The last answer, which an index has at once."""
        rows = TextRow.objects.filter(blog=self._blog_id, answered_at__isnull=False)
        return rows.order_by("-answered_at", "-pk").values_list("answered_at", "pk").first()

    def known(self, asks: Collection[Ask]) -> Mapping[str, Answer]:
        """Return the answers that are there, by key.

        A fault counts only for the services that were asked: with another chain the text is asked about again.
        """
        chains = {ask.key: list(ask.services) for ask in asks}
        keys, found = [ask.key for ask in asks], dict[str, Answer]()
        for first in range(0, len(keys), _MOST_AT_ONCE):
            some = keys[first : first + _MOST_AT_ONCE]
            rows = TextRow.objects.filter(AnyOf("key", some), blog=self._blog_id, answered_at__isnull=False)
            for key, text, fault, by, chain in rows.values_list("key", "text", "fault", "by", "ask__services"):
                if not fault or chain == chains[key]:
                    found[key] = Answer(text=text, fault=fault, by=by)
        return found


def ask_of_row(values: Mapping[str, Any]) -> Ask:
    """Return a question from its stored form."""
    return Ask(
        task=TextTask(values["task"]),
        services=tuple(values["services"]),
        text=values["text"],
        source=values["source"],
        target=values["target"],
        words=values["words"],
        names=tuple(values["names"]),
        fixed=tuple(FixedWord(tuple(forms), tuple(by)) for forms, by in values["fixed"]),
    )


def services_of(blog: Blog) -> QuerySet[Service]:
    """Return the language services of a blog by name, at most 100."""
    return Service.objects.filter(blog=blog, removed_at=None).order_by("name", "pk")[:_MOST]


def services_by_key(blog_id: int) -> dict[str, Service]:
    """Return the language services of a blog by key."""
    return {row.key: row for row in Service.objects.filter(blog=blog_id, removed_at=None)[:_MOST]}


def service_of(blog: Blog, key: str) -> Service:
    """Return a language service by its key. Raises NotFound."""
    row = Service.objects.filter(blog=blog, key=key, removed_at=None).first()
    if row is None:
        raise NotFound(f"There is no language service “{key}” in this blog.")
    return row


def document_of_service(service: Service) -> ServiceDocument:
    """Return the description of a service."""
    return ServiceDocument.model_validate(service.document)


def unanswered(blog_id: int) -> QuerySet[TextRow]:
    """Return the texts of a blog that have no answer yet, in the order of asking."""
    return TextRow.objects.filter(blog=blog_id, answered_at=None).order_by("pk")


def trouble_of(blog: Blog) -> tuple[Service, int] | None:
    """Return a service whose last answer was no use, with the number of texts that wait.

    None where no text waits, or no service is in trouble.
    """
    waiting = unanswered(blog.pk).count()
    if not waiting:
        return None
    rows = Service.objects.filter(blog=blog, removed_at=None).exclude(state__in=_GOOD).order_by("-checked_at")
    service = rows.first()
    return (service, waiting) if service else None


def has_answers_since(campaign_id: int, since: datetime) -> bool:
    """Whether texts of a campaign were answered since some moment, so that its items can go on."""
    return TextRow.objects.filter(campaign=campaign_id, answered_at__gt=since).exclude(text="").exists()


def spent_campaigns(blog_id: int, day: date) -> list[int]:
    """Return the campaigns of a blog that have sent what they may on a day (UTC)."""
    limited = ServiceUse.objects.filter(service__blog=blog_id, day=day, campaign__characters_a_day__isnull=False)
    sent = limited.values_list("campaign", "campaign__characters_a_day").annotate(sent=Sum("characters"))
    return [campaign for campaign, most, characters in sent if campaign is not None and characters >= most]


def sent_on(service: Service, day: date) -> int:
    """Return how many characters were sent to a service on a day (UTC)."""
    return ServiceUse.objects.filter(service=service, day=day).aggregate(sent=Sum("characters"))["sent"] or 0


def bill_of(service: Service, since: date) -> Sequence[tuple[str | None, int, int, int, int]]:
    """Return what was sent to a service since a day, by campaign, most first.

    Each has name of the campaign, requests, texts, characters, and what the service counted.
    """
    rows = ServiceUse.objects.filter(service=service, day__gte=since).values("campaign__name")
    sums = rows.annotate(r=Sum("requests"), t=Sum("texts"), c=Sum("characters"), u=Sum("charged")).order_by(
        "-c", "campaign__name"
    )
    return [(row["campaign__name"], row["r"], row["t"], row["c"], row["u"]) for row in sums[:_MOST_BILLED]]


@dataclass(frozen=True, slots=True, kw_only=True)
class TextsCost:
    """What is sent to a service, and what it costs by its price for a million characters."""

    service: str
    name: str
    texts: int
    characters: int
    price: Decimal | None
    currency: str

    def times(self, share: float) -> "TextsCost":
        """Return the cost of as many times as much."""
        price = None if self.price is None else (self.price * Decimal(share)).quantize(Decimal("0.0001"))
        return replace(self, texts=round(self.texts * share), characters=round(self.characters * share), price=price)


def costs_of(blog_id: int, asks: Sequence[Ask]) -> list[TextsCost]:
    """Return what questions cost at the first service of their chains."""
    services = services_by_key(blog_id)
    texts, characters = Counter[str](), Counter[str]()
    for ask in asks:
        texts[ask.services[0]] += 1
        characters[ask.services[0]] += len(ask.text)
    costs = []
    for key, number in texts.items():
        service = services.get(key)
        price = service.price * characters[key] / 1_000_000 if service and service.price is not None else None
        costs.append(
            TextsCost(
                service=key,
                name=service.name if service else key,
                texts=number,
                characters=characters[key],
                price=price.quantize(Decimal("0.0001")) if price is not None else None,
                currency=service.currency if service else "",
            )
        )
    return costs


def counts_of(blog: Blog) -> Mapping[str, int]:
    """Return how many texts of a blog have an answer, wait for one, and have a fault."""
    rows = TextRow.objects.filter(blog=blog)
    return rows.aggregate(
        answered=Count("pk", filter=Q(answered_at__isnull=False, fault="")),
        waiting=Count("pk", filter=Q(answered_at=None)),
        kept=Count("pk", filter=~Q(fault="")),
    )
