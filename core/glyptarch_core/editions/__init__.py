"""Other versions of a text: in another language, in other words, in fewer."""

from glyptarch_core.editions.asking import asked_of, fixed_words
from glyptarch_core.editions.blocks import blocks_of, mark_tokens, without_marks
from glyptarch_core.editions.checks import checked
from glyptarch_core.editions.document import BlogLanguage, LanguageDocument, languages_of
from glyptarch_core.editions.making import (
    EditionBlock,
    EditionPlan,
    EditionTexts,
    MadeEdition,
    block_texts,
    digest_of,
)
from glyptarch_core.editions.rewording import Synonym, Synonyms, read_synonym, same_runs
from glyptarch_core.editions.summary import summary

__all__ = [
    "BlogLanguage",
    "EditionBlock",
    "EditionPlan",
    "EditionTexts",
    "LanguageDocument",
    "MadeEdition",
    "Synonym",
    "Synonyms",
    "asked_of",
    "block_texts",
    "blocks_of",
    "checked",
    "digest_of",
    "fixed_words",
    "languages_of",
    "mark_tokens",
    "read_synonym",
    "same_runs",
    "summary",
    "without_marks",
]
