"""A term as it stands in a document: a word or phrase with at least one word in it."""

from typing import Annotated

from pydantic import AfterValidator, StringConstraints

from glyptarch_core.text import Term

__all__ = ["TermText"]


def _has_a_word(text: str) -> str:
    Term.parse(text)
    return text


TermText = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200), AfterValidator(_has_a_word)
]
"""A word, a phrase, or the start of a word (``comet*``), to be looked for whole."""
