"""What a platform is: typed parameters, how it signs in, its pages and limits, and how its answers become items."""

from abc import ABC, abstractmethod
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any, ClassVar, Generic, TypeVar

from glyptarch_core.item import Features, Item
from glyptarch_core.readers import ReadWarning
from glyptarch_core.settings import Settings

__all__ = ["Answer", "Ask", "Parameters", "Platform", "PlatformPage", "Secret", "SignIn"]


class SignIn(StrEnum):
    """How a platform knows who asks: not at all, by a header of its own, a bearer token (RFC 6750), basic, or OAuth 2.

    With OAuth 2 a person signs in at the platform (authorization code with PKCE; RFC 6749, 4.1, and RFC 7636).
    """

    NONE = "none"
    HEADER = "header"
    BEARER = "bearer"
    BASIC = "basic"
    OAUTH = "oauth"


@dataclass(frozen=True, slots=True, kw_only=True)
class Secret:
    """A field of a connection: its name, what it is called, and whether it is hidden once it is kept."""

    name: str
    label: str
    hidden: bool = True


class Parameters(Settings):
    """What a source asks a platform for. Each field's description is shown beside it in the form."""


Given = TypeVar("Given", bound=Parameters)


@dataclass(frozen=True, slots=True, kw_only=True)
class Ask:
    """One request: a path beneath the address of the platform (or a whole address), its query, and own headers."""

    path: str
    query: Mapping[str, str] = field(default_factory=dict)
    headers: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """What a platform answered: the bytes, their type, the address that gave them, and the ``Link`` header."""

    body: bytes
    url: str
    content_type: str = ""
    link: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class PlatformPage:
    """What one answer held: items, where the next one is (empty for none), and how many there are in all, if stated."""

    items: tuple[Item, ...]
    next: str = ""
    total: int | None = None
    warnings: tuple[ReadWarning, ...] = ()
    features: tuple[Features, ...] = ()


class Platform(ABC, Generic[Given]):
    """One platform. ``limit_a_day`` is how many requests a connection may make in a day; 0 for no limit.

    ``by_words`` says that it is searched: a source of it has lines of search words.
    """

    key: ClassVar[str]
    name: ClassVar[str]
    purpose: ClassVar[str]
    sign_in: ClassVar[SignIn] = SignIn.HEADER
    header: ClassVar[str] = ""
    # Where a person signs in and where tokens are given, beneath the address of the platform; what is asked for.
    authorize_path: ClassVar[str] = "/oauth/authorize"
    token_path: ClassVar[str] = "/oauth/token"  # noqa: S105 - an address
    scope: ClassVar[str] = "read"
    secrets: ClassVar[Sequence[Secret]] = (Secret(name="key", label="Key"),)
    limit_a_day: ClassVar[int] = 0
    by_words: ClassVar[bool] = True
    parameters: type[Given]

    @abstractmethod
    def ask(self, given: Given, words: str, cursor: str) -> Ask:
        """Give the request for a page: the first one where ``cursor`` is empty."""

    @abstractmethod
    def read(self, answer: Answer, given: Given, *, source: str, cursor: str) -> PlatformPage:
        """Give the items of an answer. Raises ParseError for what is none of this platform's answers."""

    def check(self) -> Ask | None:
        """Give a cheap request that tells whether a connection works; None where there is none."""
        return Ask(path="/me")

    def most_items(self, given: Given) -> int:
        """Give how many items one reading takes at most."""
        del given
        return 200

    def described(self, given: Given) -> str:
        """Say in a few words what is asked for, to be read before it is kept."""
        del given
        return ""

    def form(self) -> dict[str, Any]:
        """Give the JSON Schema (2020-12) of the parameters, from which the form is made."""
        return self.parameters.model_json_schema()
