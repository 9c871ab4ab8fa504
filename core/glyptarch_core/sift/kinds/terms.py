"""Has any, all or none of some words and phrases."""

from collections.abc import Sequence
from datetime import datetime
from enum import StrEnum
from typing import Literal, Self

from pydantic import Field, model_validator

from glyptarch_core.item import Captured
from glyptarch_core.settings import LibraryKey
from glyptarch_core.sift.base import Check, CustomName, Finding, Prefilter, Prefiltered, SiftContext, SiftRuleBase
from glyptarch_core.sift.description import SiftKind
from glyptarch_core.sift.fields import TextField, passages
from glyptarch_core.sift.hits import SHOWN, shown
from glyptarch_core.term_text import LooksForTerms, TermText, all_terms
from glyptarch_core.text import STEMMED, Passage, Term
from glyptarch_core.trace import Json

__all__ = ["KIND", "TermsMode", "TermsRule"]


class TermsMode(StrEnum):
    """The number of terms that an item must have."""

    ANY = "any"
    ALL = "all"
    NONE = "none"


class TermsRule(LooksForTerms, SiftRuleBase):
    """Whole words, ignoring case and accents.

    ``comet*`` matches the beginning of a word. ``lists`` are keys of word lists whose terms count as well. With
    ``stem`` (a language) every form of a word counts as that word.
    """

    kind: Literal["terms"] = "terms"
    field: TextField = TextField.TITLE_OR_TEXT
    name: CustomName = ""
    mode: TermsMode = TermsMode.ANY
    terms: tuple[TermText, ...] = Field(default=(), max_length=500)
    lists: tuple[LibraryKey, ...] = Field(default=(), max_length=20)
    stem: str = Field(default="", max_length=20)

    @model_validator(mode="after")
    def _stemming_is_known(self) -> Self:
        if self.stem and self.stem not in STEMMED:
            raise ValueError(f"no stemming is known for “{self.stem}”; known are {', '.join(sorted(STEMMED))}")
        return self


_CODES = {
    TermsMode.ANY: ("terms.found", "terms.no_term"),
    TermsMode.ALL: ("terms.found", "terms.missing"),
    TermsMode.NONE: ("terms.absent", "terms.forbidden"),
}


def compile_terms(rule: TermsRule, context: SiftContext) -> Check:
    """Parse the terms once.

    The check looks each up in the index of the item's words.
    """
    terms = [Term.parse(text, stem=rule.stem) for text in all_terms(rule.terms, rule.lists, context.lists)]

    def look(term: Term, found_in: Sequence[tuple[str, Passage]]) -> dict[str, Json] | None:
        places = [
            (where, passage, *passage.first(term)) for where, passage in found_in if term.stem or passage.has(term)
        ]
        for where, passage, hit, _ in places:
            if hit is not None:
                return shown(term.text, where, passage, hit, sum(times for *_, times in places))
        return None

    def check(captured: Captured, _now: datetime) -> Finding:
        found_in = passages(rule.field, rule.name, captured)
        hits_by_term = [(term, look(term, found_in)) for term in terms]
        hits: list[Json] = [hit for _, hit in hits_by_term if hit]
        missing: list[Json] = [term.text for term, hit in hits_by_term if not hit]
        passed = {TermsMode.ANY: bool(hits), TermsMode.ALL: not missing, TermsMode.NONE: not hits}[rule.mode]
        data: dict[str, Json] = {"hits": hits[:SHOWN], "missing": missing[:SHOWN]}
        return Finding(passed=passed, code=_CODES[rule.mode][not passed], data=data)

    if rule.stem or any(term.signs is not None for term in terms):
        return check
    none_found: list[Json] = [term.text for term in terms]
    passed = {TermsMode.ANY: False, TermsMode.ALL: not terms, TermsMode.NONE: True}[rule.mode]
    prefilter = Prefilter(
        field=rule.field,
        name=rule.name,
        words=frozenset(word for word, prefix in (term.words[0] for term in terms) if not prefix),
        starts=frozenset(word for word, prefix in (term.words[0] for term in terms) if prefix),
        otherwise=Finding(
            passed=passed, code=_CODES[rule.mode][not passed], data={"hits": [], "missing": none_found[:SHOWN]}
        ),
    )
    return Prefiltered(check, prefilter)


KIND = SiftKind(
    rule=TermsRule,
    compile=compile_terms,
    order=10,
    label="Words and phrases",
    hint="has any, all or none of them",
    manual=(
        "any, all or none of some words and phrases. Whole words, ignoring case and accents, in any "
        "script; `comet*` is the beginning of a word. Word lists of the blog can add terms. With `stem` "
        "every form of a word counts (Snowball)"
    ),
    start={"field": "title_or_text", "name": "", "mode": "none", "terms": ["sponsored"], "lists": [], "stem": ""},
)
