"""The error classes, by origin: the campaign, the source, or neither.

Refusals and duplicates are values with reasons, not errors. An error means that an operation failed.
"""

from collections.abc import Sequence
from dataclasses import dataclass

__all__ = [
    "CampaignError",
    "CoreError",
    "CostlyEntryError",
    "DocumentError",
    "Fault",
    "ParseError",
    "SelectorError",
    "SourceError",
    "TemplateError",
    "UnwantedError",
]


class CoreError(Exception):
    """The base of all errors of the core."""


class UnwantedError(CoreError):
    """Raised when the caller no longer wants the outcome of a pass under way."""


class CampaignError(CoreError):
    """The rules of a campaign cannot be used."""


class SourceError(CoreError):
    """The answer of a source cannot be used."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Fault:
    """One fault of a campaign document: its path, the message and the remedy.

    A path is written ``sift.rules.2.terms``.
    """

    path: str
    message: str
    hint: str = ""

    def __str__(self) -> str:
        return f"{self.path or 'document'}: {self.message}{f'; {self.hint}' if self.hint else ''}"


class DocumentError(CampaignError):
    """A campaign document is invalid.

    Carries all of its faults.
    """

    def __init__(self, faults: Sequence[Fault]) -> None:
        self.faults = tuple(faults)
        super().__init__("; ".join(f"{fault.path}: {fault.message}" for fault in self.faults))


class TemplateError(CampaignError):
    """A template cannot be parsed or rendered.

    Carries line and column, both from 1.
    """

    def __init__(self, message: str, *, line: int | None = None, column: int | None = None) -> None:
        self.line = line
        self.column = column
        super().__init__(message)


class SelectorError(SourceError):
    """A selector cannot be parsed.

    ``place`` is the offending character, from 1; 0 where it is not known.
    """

    def __init__(self, message: str, place: int) -> None:
        self.place = place
        super().__init__(message)


class CostlyEntryError(SourceError):
    """An entry takes too much time.

    Raised by the function that computes its features.
    """


class ParseError(SourceError):
    """Bytes that are no feed, or no page that can be read.

    ``code`` is one of ``empty``, ``page``, ``login_page``, ``not_a_feed``, ``bad_json`` and ``too_costly``; of pages
    ``not_a_page``, ``too_large`` and ``too_deep`` as well.
    """

    def __init__(self, code: str, message: str) -> None:
        self.code = code
        super().__init__(message)
