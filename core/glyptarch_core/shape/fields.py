"""Fields of the blog's own: a name, a type, and a template that gives the value."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Any

from pydantic import AfterValidator, Field, StringConstraints

from glyptarch_core.draft import FieldType, FieldValue
from glyptarch_core.settings import RuleSettings
from glyptarch_core.shape.templates import compile_template, parses
from glyptarch_core.text import clean_text, number_in, sanitise

__all__ = ["CustomField", "Filled", "compile_fields"]

_YES = frozenset({"yes", "true", "1", "on"})
_NO = frozenset({"no", "false", "0", "off"})
_LONGEST = 5_000


class CustomField(RuleSettings):
    """Templates use it as ``fields.name``.

    The blog shows it under its label.
    """

    name: Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
    label: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)] = ""
    type: FieldType = FieldType.TEXT
    value: Annotated[str, Field(max_length=5000), AfterValidator(lambda text: parses(text, html=True))] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Filled:
    """The fields of one post that have a value, and the unreadable texts by field name."""

    values: tuple[FieldValue, ...]
    unread: Mapping[str, str]


def _number(text: str) -> float:
    number = number_in(text, alone=True)
    if number is None:
        raise ValueError(text)
    return number


def _yes_no(text: str) -> bool:
    if text.lower() in _YES | _NO:
        return text.lower() in _YES
    raise ValueError(text)


def _date(text: str) -> str:
    try:
        return date.fromisoformat(text).isoformat()
    except ValueError:
        return datetime.fromisoformat(text).isoformat()


def _address(text: str) -> str:
    if not text.startswith(("http://", "https://")) or any(char.isspace() for char in text):
        raise ValueError(text)
    return text


_READERS: Mapping[FieldType, Callable[[str], str | float | bool]] = {
    FieldType.TEXT: str,
    FieldType.NUMBER: _number,
    FieldType.YES_NO: _yes_no,
    FieldType.DATE: _date,
    FieldType.PICTURE: _address,
    FieldType.LINK: _address,
    FieldType.RICH_TEXT: sanitise,
}


def compile_fields(fields: Sequence[CustomField]) -> Callable[[Mapping[str, Any], Callable[[str, str], str]], Filled]:
    """Compile the active fields into one function over the variables.

    Its second argument gives each text its last form, by ``fields.name``. The function raises TemplateError.
    """
    compiled = [
        (field, compile_template(field.value, html=field.type is FieldType.RICH_TEXT)) for field in fields if field.on
    ]

    def fill(values: Mapping[str, Any], finish: Callable[[str, str], str]) -> Filled:
        filled: list[FieldValue] = []
        unread: dict[str, str] = {}
        for field, render in compiled:
            text = finish(f"fields.{field.name}", clean_text(render(values)).strip())[:_LONGEST]
            if not text:
                continue
            try:
                value = _READERS[field.type](text)
            except ValueError:
                unread[field.name] = text[:200]
                continue
            label = field.label or field.name.replace("_", " ").capitalize()
            filled.append(FieldValue(name=field.name, label=label, type=field.type, value=value))
        return Filled(values=tuple(filled), unread=unread)

    return fill
