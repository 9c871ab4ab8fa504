"""Any JSON API without code: an address, paging, and a JMESPath for each field."""

import json
import re
from collections.abc import Mapping, Sequence
from enum import StrEnum
from typing import Annotated, Any, ClassVar
from urllib.parse import quote, urlsplit

from pydantic import Field, StringConstraints, field_validator, model_validator

from glyptarch_core.errors import ParseError
from glyptarch_core.header_names import may_be_set
from glyptarch_core.item import Item
from glyptarch_core.platforms.model import Answer, Ask, Parameters, Platform, PlatformPage, Secret, SignIn
from glyptarch_core.platforms.values import Row, loaded
from glyptarch_core.readers.links import linked
from glyptarch_core.readers.model import identity_of, resolve, stated
from glyptarch_core.text.json_paths import compile_path, value_by

__all__ = ["PLATFORMS", "JsonParameters"]

_MOST_ITEMS = 500
_LONGEST_PATH = 300
Path = Annotated[str, StringConstraints(strip_whitespace=True, max_length=_LONGEST_PATH)]
_VARIABLE = re.compile(r"\{(\w{1,20})\}")
_KNOWN = {"words", "page", "offset", "cursor"}


class Paging(StrEnum):
    """The way to request the next page."""

    NONE = "none"
    PAGE = "page"
    OFFSET = "offset"
    CURSOR = "cursor"
    LINK = "link"
    ADDRESS = "address"


_FIELDS = ("id", "title", "link", "text", "summary", "date", "author", "picture", "tags", "language", "price")


class JsonParameters(Parameters):
    """The parameters of a JSON API. Paths of fields begin at an entry of the list."""

    address: Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000)] = Field(
        default="", title="Address", description="With {words}, {page}, {offset} or {cursor} where they stand."
    )
    headers: Mapping[str, Annotated[str, StringConstraints(max_length=500)]] = Field(
        default_factory=dict, title="Headers", description="Own headers that are no secret.", max_length=10
    )
    body: Annotated[str, StringConstraints(strip_whitespace=True, max_length=10_000)] = Field(
        default="", title="Body", description="JSON that is sent with POST, with the same variables; empty for GET."
    )
    paging: Paging = Field(default=Paging.NONE, title="Pages", description="How the next answer is asked for.")
    first: int = Field(default=1, ge=0, le=1, title="First page", description="The number of the first page: 0 or 1.")
    next: Path = Field(
        default="", title="Next page", description="Where the cursor or the address of the next answer stands."
    )
    elsewhere: bool = Field(
        default=False, title="Other hosts", description="Whether the address of the next answer may be at another host."
    )
    list: Path = Field(
        default="", title="The list", description="Where the list stands; empty where the answer is one."
    )
    fields: Mapping[Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,40}$")], Path] = Field(
        default_factory=lambda: {"title": "title", "link": "url"},
        title="Fields",
        description="Where each field of an entry stands.",
        max_length=30,
    )

    @field_validator("headers", mode="after")
    @classmethod
    def _can_be_sent(cls, value: Mapping[str, str]) -> Mapping[str, str]:
        for name, text in value.items():
            if not may_be_set(name):
                raise ValueError(f"“{name}” is not a header that can be set; try Accept-Language, for example")
            if not text.isascii() or not text.isprintable():
                raise ValueError(f"the value of {name} must be one line of plain letters (ASCII)")
        return value

    @field_validator("next", "list", mode="after")
    @classmethod
    def _is_path(cls, value: str) -> str:
        if value:
            compile_path(value)
        return value

    @field_validator("fields", mode="after")
    @classmethod
    def _are_paths(cls, value: Mapping[str, str]) -> Mapping[str, str]:
        for name, path in value.items():
            if path:
                try:
                    compile_path(path)
                except ValueError as error:
                    raise ValueError(f"{name}: {error}") from error
        return value

    @model_validator(mode="after")
    def _can_be_asked(self) -> "JsonParameters":
        used = {*_VARIABLE.findall(self.address), *_VARIABLE.findall(self.body)}
        if used - _KNOWN:
            raise ValueError(f"address or body have an unknown variable: {{{min(used - _KNOWN)}}}")
        if self.paging.value in _KNOWN and self.paging.value not in used:
            raise ValueError(f"write {{{self.paging.value}}} where it stands in the address or the body")
        if self.paging in {Paging.CURSOR, Paging.ADDRESS} and not self.next:
            raise ValueError(f"say where the {self.paging.value} of the next answer stands")
        if self.body and not _is_json(_filled(self.body, {"words": "x", "page": "1", "offset": "1", "cursor": "x"})):
            raise ValueError("the body is no JSON: a variable for words stands in quotes, one for a number alone")
        if "{" in urlsplit(self.address).netloc:
            raise ValueError("the host of the address has no variables")
        return self


class JsonApi(Platform[JsonParameters]):
    """Any JSON API."""

    key = "json"
    name = "JSON API"
    purpose = "Any API that answers with JSON: you say where the fields stand."
    sign_in = SignIn.HEADER
    secrets: ClassVar[Sequence[Secret]] = (
        Secret(name="header", label="Header", hidden=False),
        Secret(name="key", label="Value of the header"),
    )
    parameters = JsonParameters

    def check(self) -> Ask | None:
        """Return None: without a source, no request of the API is known."""
        return None

    def ask(self, parameters: JsonParameters, words: str, cursor: str) -> Ask:
        """Fill in the address."""
        number = cursor or (str(parameters.first) if parameters.paging is Paging.PAGE else "0")
        values = {"words": words, "page": number, "offset": number, "cursor": cursor}
        body = _filled(parameters.body, values) if parameters.body else ""
        if parameters.paging in {Paging.LINK, Paging.ADDRESS} and cursor:
            return Ask(path=cursor, headers=dict(parameters.headers), body=body)
        filled = _VARIABLE.sub(lambda match: quote(values[match[1]], safe=""), parameters.address)
        return Ask(path=filled, headers=dict(parameters.headers), body=body)

    def read(self, answer: Answer, parameters: JsonParameters, *, source: str, cursor: str) -> PlatformPage:
        """Read the list of an answer by the paths. Raises ParseError where there is none."""
        data = loaded(answer.body, answer.content_type).value
        listed_rows = value_by(parameters.list, data) if parameters.list else data
        if not isinstance(listed_rows, list):
            raise ParseError("no_list", f"There is no list at “{parameters.list or 'the top of the answer'}”.")
        rows = [entry for entry in listed_rows[:_MOST_ITEMS] if isinstance(entry, dict)]
        kept_items = [_item(row, answer.url, source, parameters.fields) for row in rows]
        items = tuple(item for item in kept_items if item.title or item.link or item.body)
        return PlatformPage(items=items, next=_next(parameters, data, answer, cursor, len(listed_rows)))


def _filled(body: str, values: Mapping[str, str]) -> str:
    """Return a body of JSON with its variables filled in, escaped as in a JSON string."""
    return _VARIABLE.sub(lambda match: json.dumps(values[match[1]])[1:-1] if match[1] in values else match[0], body)


def _is_json(text: str) -> bool:
    try:
        json.loads(text)
    except (ValueError, RecursionError):
        return False
    return True


def _next(parameters: JsonParameters, data: Any, answer: Answer, cursor: str, number: int) -> str:  # noqa: ANN401
    if not number:
        return ""
    if parameters.paging is Paging.PAGE:
        return str(int(cursor or parameters.first) + 1)
    if parameters.paging is Paging.OFFSET:
        return str(int(cursor or 0) + number)
    if parameters.paging is Paging.CURSOR:
        return Row(value_by(parameters.next, data)).text()
    if parameters.paging is Paging.ADDRESS:
        following = resolve(answer.url, Row(value_by(parameters.next, data)).text())
        # Another host could be anybody's.
        stays = urlsplit(following).netloc == urlsplit(answer.url).netloc
        return following if stays or parameters.elsewhere else ""
    return linked(answer.link, "next", answer.url) if parameters.paging is Paging.LINK else ""


def _item(row: Mapping[str, Any], base: str, source: str, fields: Mapping[str, str]) -> Item:
    values = {name: Row(value_by(path, row)) for name, path in fields.items() if path}
    empty = Row(None)

    def at(name: str) -> Row:
        return values.get(name, empty)

    link, title = at("link").address(base), at("title").plain("")
    authors, tags = at("author"), at("tags")
    own = {name: value.text() for name, value in values.items() if name not in _FIELDS}
    return Item(
        source=source,
        identity=identity_of(at("id").text(), link, title, at("text").text()),
        link=link,
        title=title,
        summary=at("summary").markup(""),
        body=at("text").markup(""),
        authors=authors.texts("") or ((authors.text(),) if authors.text() else ()),
        categories=tags.texts("") or tuple(part.strip() for part in tags.text().split(",") if part.strip()),
        published=at("date").moment(""),
        language=at("language").text().lower(),
        media=at("picture").picture("", base, alt=title),
        facts=stated(price=at("price").price(""), **own),
        raw=dict(row),
    )


class JsonApiBasic(JsonApi):
    """Any JSON API that takes a user name and a password (RFC 7617)."""

    key = "json_basic"
    name = "JSON API with user and password"
    sign_in = SignIn.BASIC
    secrets = (Secret(name="user", label="User name", hidden=False), Secret(name="password", label="Password"))


class JsonApiQuery(JsonApi):
    """Any JSON API that takes a key in its address."""

    key = "json_query"
    name = "JSON API with a key in the address"
    sign_in = SignIn.QUERY
    secrets = (
        Secret(name="parameter", label="Name of the parameter", hidden=False),
        Secret(name="key", label="Key"),
    )


_TOKENS = Secret(name="token_address", label="Address of the tokens", hidden=False)


class JsonApiClient(JsonApi):
    """Any JSON API that the program signs in to by OAuth 2 (client credentials; RFC 6749, 4.4)."""

    key = "json_client"
    name = "JSON API with OAuth 2, for a program"
    sign_in = SignIn.CLIENT
    secrets = (
        Secret(name="client", label="Client id", hidden=False),
        Secret(name="secret", label="Client secret"),
        _TOKENS,
    )


class JsonApiPerson(JsonApi):
    """Any JSON API that a person signs in to by OAuth 2 (authorization code with PKCE)."""

    key = "json_person"
    name = "JSON API with OAuth 2, for a person"
    sign_in = SignIn.OAUTH
    secrets = (
        Secret(name="client", label="Client id", hidden=False),
        Secret(name="sign_in_address", label="Address of the sign-in", hidden=False),
        _TOKENS,
    )


PLATFORMS = (JsonApi(), JsonApiBasic(), JsonApiQuery(), JsonApiClient(), JsonApiPerson())
