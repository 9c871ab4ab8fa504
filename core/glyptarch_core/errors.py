"""One tree of errors, split by whose fault it is: the campaign's, the source's or nobody's.

A refusal or a duplicate is not an error but a value with its reason; an error means that
something could not be done at all.
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
    """Whatever the core could not do."""


class UnwantedError(CoreError):
    """Nobody waits for the outcome any more: the caller has said so while it was being worked out."""


class CampaignError(CoreError):
    """The rules of a campaign cannot be used as they stand."""


class SourceError(CoreError):
    """What a source gave cannot be used."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Fault:
    """One thing wrong in a campaign document: where (``sift.rules.2.terms``), what, and the remedy."""

    path: str
    message: str
    hint: str = ""

    def __str__(self) -> str:
        return f"{self.path or 'document'}: {self.message}{f'; {self.hint}' if self.hint else ''}"


class DocumentError(CampaignError):
    """A campaign document that does not hold; carries every fault at once."""

    def __init__(self, faults: Sequence[Fault]) -> None:
        self.faults = tuple(faults)
        super().__init__("; ".join(f"{fault.path}: {fault.message}" for fault in self.faults))


class TemplateError(CampaignError):
    """A template that cannot be read or rendered, with the line and column (from 1) where it goes wrong."""

    def __init__(self, message: str, *, line: int | None = None, column: int | None = None) -> None:
        self.line = line
        self.column = column
        super().__init__(message)


class SelectorError(SourceError):
    """A selector that cannot be read; ``place`` is the character (from 1) at fault, 0 where that is not known."""

    def __init__(self, message: str, place: int) -> None:
        self.place = place
        super().__init__(message)


class CostlyEntryError(SourceError):
    """One entry that takes more time than it is worth; raised by the function that reads its features."""


class ParseError(SourceError):
    """Bytes that are no feed, or no page that can be read.

    ``code`` is one of ``empty``, ``page``, ``not_a_feed``, ``bad_json`` and ``too_costly``; of pages
    ``not_a_page``, ``too_large``, ``too_deep`` and ``nothing_found`` as well.
    """

    def __init__(self, code: str, message: str) -> None:
        self.code = code
        super().__init__(message)
