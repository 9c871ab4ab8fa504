"""Terms as they stand in a document: words or phrases with at least one word in each, and lists of them."""

from collections.abc import Sequence
from typing import Annotated

from pydantic import AfterValidator, StringConstraints

from glyptarch_core.ports import WordLists
from glyptarch_core.text import Term

__all__ = ["TermText", "all_terms"]


def _has_a_word(text: str) -> str:
    Term.parse(text)
    return text


TermText = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200), AfterValidator(_has_a_word)
]
"""A word, a phrase, or the start of a word (``comet*``), to be looked for whole."""


def all_terms(terms: Sequence[str], keys: Sequence[str], lists: WordLists) -> list[str]:
    """Give terms with those of the named word lists, each once; a list that is not kept any more has none."""
    return list(dict.fromkeys([*terms, *(term for key in keys for term in lists.get(key, ()))]))
