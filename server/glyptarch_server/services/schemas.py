"""API schemas of language services."""

from datetime import datetime
from decimal import Decimal
from enum import StrEnum
from typing import Annotated, Any

from glyptarch_core.language_services import TextTask
from ninja import Schema
from pydantic import Field, StringConstraints

from glyptarch_server.common.out import Out
from glyptarch_server.common.versions import Begun

__all__ = [
    "AskedAgainOut",
    "BilledOut",
    "ReadyServiceOut",
    "SaveServiceIn",
    "ServiceIn",
    "ServiceOut",
    "ServicePageOut",
    "ServiceState",
    "TextsCostOut",
    "TryServiceIn",
    "TryServiceOut",
]

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=100)]


class ServiceState(StrEnum):
    """Whether a language service works, as far as is known."""

    UNCHECKED = "unchecked"
    VALID = "valid"
    WRONG = "wrong"
    OVER_LIMIT = "over_limit"
    UNREACHABLE = "unreachable"
    UNREADABLE = "unreadable"


class ServiceIn(Schema):
    """A new language service. Without a secret it is asked without a key."""

    name: Name
    document: dict[str, Any] = Field(description="The description of the service; see docs/languages.md.")
    secret: Annotated[str, StringConstraints(max_length=2000)] = ""
    most_a_day: int | None = Field(
        None, ge=1, le=2**31 - 1, description="Characters a day (UTC) that are sent at most."
    )
    price: Decimal | None = Field(None, ge=0, le=1_000_000, description="What a million characters cost.")
    currency: Annotated[str, StringConstraints(pattern=r"^([A-Z]{3})?$")] = ""


class SaveServiceIn(ServiceIn):
    """A changed language service. An empty secret keeps its value, unless the host is another."""

    version: Begun = None


class ServiceOut(Out):
    """A language service, without its secret."""

    key: str
    version: int
    name: str
    document: dict[str, Any]
    has_secret: bool
    most_a_day: int | None
    price: Decimal | None
    currency: str
    state: ServiceState
    detail: str
    checked_at: datetime | None
    waits_until: datetime | None
    sent_today: int
    tasks: list[TextTask]


class ServicePageOut(Out):
    """The language services of a blog, and the numbers of texts in its memory."""

    services: list[ServiceOut]
    answered: int
    waiting: int
    kept: int = Field(description="Texts that stay as they were, because no answer could be used.")


class ReadyServiceOut(Out):
    """A description to begin with."""

    key: str
    document: dict[str, Any]


class AskedAgainOut(Out):
    """How many texts are asked about again, and the task that does it."""

    texts: int
    task: int | None


class BilledOut(Out):
    """What was sent to a service for a campaign in the last thirty days."""

    campaign: str | None
    requests: int
    texts: int
    characters: int
    charged: int = Field(description="What the service itself counted, in its own unit; 0 where it says nothing.")


class TryServiceIn(Schema):
    """A text to try a service with."""

    task: TextTask = TextTask.TRANSLATE
    text: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=1000)]
    source: Annotated[str, StringConstraints(max_length=20)] = "en"
    target: Annotated[str, StringConstraints(max_length=20)] = "de"


class TryServiceOut(Out):
    """What a service answered. With a ``fault``, no text of a post would be replaced by it."""

    answer: str
    fault: str
    detail: str
    charged: int
    milliseconds: int


class TextsCostOut(Out):
    """What is sent to the first service of a chain. The price is an estimate by its characters."""

    service: str
    name: str
    texts: int
    characters: int
    price: Decimal | None
    currency: str
