"""What the desk needs to know to draw a kind of rule.

Names, a sentence and the words of findings. The desk gets them with the API's schema (``manage.py export_schema``).
So a kind whose places are choices, numbers, spans of time and texts needs no component of its own.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Literal, TypeAlias

from glyptarch_core.sift.base import Check, SiftContext, SiftRuleBase
from glyptarch_core.trace import Json

__all__ = ["Choice", "Hours", "Number", "Place", "SiftKind", "Text", "Words"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """One of some values, each with the words that stand in the sentence.

    A yes or no has ``true`` and ``false``.
    """

    label: str
    options: Mapping[str, str]
    type: Literal["choice"] = "choice"


@dataclass(frozen=True, slots=True, kw_only=True)
class Number:
    """A number within bounds."""

    label: str
    least: float
    most: float
    whole: bool = True
    type: Literal["number"] = "number"


@dataclass(frozen=True, slots=True, kw_only=True)
class Hours:
    """A span of time in whole hours, which people write in hours or days."""

    label: str
    most: int
    type: Literal["hours"] = "hours"


@dataclass(frozen=True, slots=True, kw_only=True)
class Text:
    """A short text. ``only_for`` is a field and the value of it that the text is asked for with."""

    label: str
    placeholder: str
    only_for: tuple[str, str] | None = None
    type: Literal["text"] = "text"


Place: TypeAlias = Choice | Number | Hours | Text


@dataclass(frozen=True, slots=True, kw_only=True)
class Words:
    """The words of a finding: the decisive part, the rest, and a short reason for lists.

    ``{name}`` stands for a value of the note, in the words of its choice; ``{name:hours}`` for a span of time, and
    ``{name:age}`` for one in whole days where it is two or more.
    """

    strong: str = ""
    rest: str = ""
    reason: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class SiftKind:
    """A kind of filter rule: its settings, how it is compiled, and how people see it.

    ``order`` is its place in menus and docs, ``manual`` what the docs say of it, ``start`` a new rule. A kind with a
    ``sentence`` is drawn from it: each ``{field}`` is one of the ``places``. Others have a component of their own.
    ``findings`` has the words for each code.
    """

    rule: type[SiftRuleBase]
    compile: Callable[[Any, SiftContext], Check]
    order: int
    label: str
    hint: str
    manual: str
    start: Mapping[str, Json]
    sentence: str = ""
    places: Mapping[str, Place] = field(default_factory=dict)
    findings: Mapping[str, Words] = field(default_factory=dict)

    @property
    def name(self) -> str:
        """The kind as documents write it."""
        return str(self.rule.model_fields["kind"].default)
