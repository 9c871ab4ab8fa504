"""A platform: its parameters, sign-in, paging and limits, and how answers become items."""

from abc import ABC, abstractmethod
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum
from typing import Any, ClassVar, Generic, TypeVar

from glyptarch_core.item import Features, Item
from glyptarch_core.readers import ReadWarning
from glyptarch_core.settings import Settings

__all__ = ["Answer", "Ask", "Parameters", "Platform", "PlatformPage", "Secret", "SignIn", "Wider"]


class SignIn(StrEnum):
    """The ways in which a platform identifies its client.

    Not at all, by a header or a query parameter of its own, bearer (RFC 6750), basic (RFC 7617), or OAuth 2. With
    ``oauth`` a person signs in at the platform (authorization code with PKCE; RFC 6749, 4.1, and RFC 7636), with
    ``client`` the program does (client credentials; RFC 6749, 4.4).
    """

    NONE = "none"
    HEADER = "header"
    BEARER = "bearer"
    QUERY = "query"
    BASIC = "basic"
    OAUTH = "oauth"
    CLIENT = "client"


@dataclass(frozen=True, slots=True, kw_only=True)
class Secret:
    """A field of a connection: its name, its label, and whether it is hidden once saved."""

    name: str
    label: str
    hidden: bool = True


class Parameters(Settings):
    """The parameters of a source. The description of each field is shown in the form."""


@dataclass(frozen=True, slots=True)
class Wider:
    """Parameters that bring more, and what they ask for: “the archive of the last 30 days”."""

    name: str
    parameters: Parameters


Given = TypeVar("Given", bound=Parameters)


@dataclass(frozen=True, slots=True, kw_only=True)
class Ask:
    """One request: a path below the platform's address, or a whole address.

    With query and headers. A ``body`` of JSON is sent with POST.
    """

    path: str
    query: Mapping[str, str] = field(default_factory=dict)
    headers: Mapping[str, str] = field(default_factory=dict)
    body: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """The answer to a request: bytes, type, final address, and the ``Link`` header."""

    body: bytes
    url: str
    content_type: str = ""
    link: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class PlatformPage:
    """One page of results: items, the next cursor (empty for none), and the stated total."""

    items: tuple[Item, ...]
    next: str = ""
    total: int | None = None
    warnings: tuple[ReadWarning, ...] = ()
    features: tuple[Features, ...] = ()


class Platform(ABC, Generic[Given]):
    """One platform. ``limit_a_day`` is the number of requests per connection and day.

    0 is no limit. ``by_words`` says that the platform is searched, so its sources have search lines.
    """

    key: ClassVar[str]
    name: ClassVar[str]
    purpose: ClassVar[str]
    sign_in: ClassVar[SignIn] = SignIn.HEADER
    header: ClassVar[str] = ""
    # Paths of sign-in and tokens below the platform's address, and the requested scope.
    authorize_path: ClassVar[str] = "/oauth/authorize"
    token_path: ClassVar[str] = "/oauth/token"  # noqa: S105 - an address
    scope: ClassVar[str] = "read"
    # How many products one request asks for by their numbers. 0 where the platform knows no numbers of products.
    products_together: ClassVar[int] = 0
    secrets: ClassVar[Sequence[Secret]] = (Secret(name="key", label="Key"),)
    limit_a_day: ClassVar[int] = 0
    by_words: ClassVar[bool] = True
    parameters: type[Given]

    @abstractmethod
    def ask(self, parameters: Given, words: str, cursor: str) -> Ask:
        """Return the request for a page.

        An empty ``cursor`` asks for the first.
        """

    @abstractmethod
    def read(self, answer: Answer, parameters: Given, *, source: str, cursor: str) -> PlatformPage:
        """Return the items of an answer. Raises ParseError."""

    def check(self) -> Ask | None:
        """Return a cheap request that shows whether a connection works.

        None where there is none.
        """
        return Ask(path="/me")

    def parameters_for(self, numbers: Sequence[str], region: str) -> Mapping[str, Any]:
        """Return the parameters that ask for products by their numbers, where the platform can."""
        del numbers, region
        return {}

    def most_items(self, parameters: Given) -> int:
        """Return the largest number of items that one reading takes."""
        del parameters
        return 200

    def described(self, parameters: Given) -> str:
        """Return a short description of the parameters, shown before they are saved."""
        del parameters
        return ""

    def wider(self, parameters: Given, today: date) -> Wider | None:
        """Return what to ask for instead where an answer is empty.

        None where nothing else is likely to bring more.
        """
        del parameters, today
        return None

    def form(self) -> dict[str, Any]:
        """Return the JSON Schema (2020-12) of the parameters, from which the form is built."""
        return self.parameters.model_json_schema()
