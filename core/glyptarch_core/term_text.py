"""Terms in a document: words or phrases with at least one word each, and lists of them."""

from collections.abc import Sequence
from typing import TYPE_CHECKING, Annotated, Self

from pydantic import AfterValidator, StringConstraints, model_validator

from glyptarch_core.ports import WordLists
from glyptarch_core.settings import RuleSettings
from glyptarch_core.text import Term

__all__ = ["LooksForTerms", "TermText", "all_terms"]


def _has_a_word(text: str) -> str:
    Term.parse(text)
    return text


TermText = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200), AfterValidator(_has_a_word)
]
"""A word, a phrase, or the start of a word (``comet*``), to be looked for whole."""


class LooksForTerms(RuleSettings):
    """A rule or step with ``terms`` and with ``lists`` of further terms.

    ``lists`` are keys of word lists. The subclass defines the two fields, in the order of its document.
    """

    if TYPE_CHECKING:
        terms: tuple[TermText, ...]
        lists: tuple[str, ...]

    @model_validator(mode="after")
    def _something_to_look_for(self) -> Self:
        if not self.terms and not self.lists:
            raise ValueError("give at least one term or word list")
        return self

    @property
    def uses_lists(self) -> tuple[str, ...]:
        """Return the keys of the word lists that it uses."""
        return self.lists


def all_terms(terms: Sequence[str], keys: Sequence[str], lists: WordLists) -> list[str]:
    """Return terms with those of the named word lists, each once.

    Missing lists have none.
    """
    return list(dict.fromkeys([*terms, *(term for key in keys for term in lists.get(key, ()))]))
