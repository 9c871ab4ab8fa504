"""Has any, all or none of some words and phrases."""

from collections.abc import Sequence
from datetime import datetime
from enum import StrEnum
from typing import Literal

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Check, Finding, SiftRuleBase
from glyptarch_core.term_text import TermText
from glyptarch_core.text import Hit, Passage, Term
from glyptarch_core.trace import Json

__all__ = ["TermsField", "TermsMode", "TermsRule", "compile_terms"]

_SHOWN = 12
_AROUND = 60


class TermsField(StrEnum):
    """Where the terms are looked for. ``text`` is the body, or the summary where there is no body."""

    TITLE_OR_TEXT = "title_or_text"
    TITLE = "title"
    TEXT = "text"
    SUMMARY = "summary"


class TermsMode(StrEnum):
    """How many of the terms an item must have."""

    ANY = "any"
    ALL = "all"
    NONE = "none"


class TermsRule(SiftRuleBase):
    """Words are matched whole, without regard to case and accents; ``comet*`` matches the start of a word."""

    kind: Literal["terms"] = "terms"
    field: TermsField = TermsField.TITLE_OR_TEXT
    mode: TermsMode = TermsMode.ANY
    terms: tuple[TermText, ...] = Field(min_length=1, max_length=500)


def _passages(field: TermsField, captured: Captured) -> Sequence[tuple[str, Passage]]:
    features = captured.features
    text = ("text", features.text) if features.text.text else ("summary", features.summary)
    match field:
        case TermsField.TITLE_OR_TEXT:
            return (("title", features.title), text)
        case TermsField.TITLE:
            return (("title", features.title),)
        case TermsField.TEXT:
            return (text,)
        case TermsField.SUMMARY:
            return (("summary", features.summary),)


def _shown(term: Term, where: str, passage: Passage, hit: Hit) -> dict[str, Json]:
    start, end = _whole_words(passage.text, max(0, hit.start - _AROUND), hit, min(len(passage.text), hit.end + _AROUND))
    return {
        "term": term.text,
        "in": where,
        "start": hit.start,
        "end": hit.end,
        "before": passage.text[start : hit.start],
        "match": passage.text[hit.start : hit.end],
        "after": passage.text[hit.end : end],
    }


def _whole_words(text: str, start: int, hit: Hit, end: int) -> tuple[int, int]:
    """Draw the ends of a snippet in to the next space, so that it shows no half word."""
    if start > 0:
        start = text.find(" ", start, hit.start) + 1 or hit.start
    if end < len(text):
        space = text.rfind(" ", hit.end, end)
        end = space if space >= 0 else hit.end
    return start, end


def compile_terms(rule: TermsRule) -> Check:
    """Parse the terms once; the check then looks each up in the index of the item's words."""
    terms = [Term.parse(text) for text in rule.terms]

    def check(captured: Captured, _now: datetime) -> Finding:
        passages = _passages(rule.field, captured)
        found: list[Json] = []
        missing: list[Json] = []
        for term in terms:
            places = [(where, passage, hit) for where, passage in passages for hit in passage.find(term)]
            if places:
                found.append(_shown(term, *places[0]) | {"times": len(places)})
            else:
                missing.append(term.text)
        passed = {
            TermsMode.ANY: bool(found),
            TermsMode.ALL: not missing,
            TermsMode.NONE: not found,
        }[rule.mode]
        code = {
            TermsMode.ANY: ("terms.found", "terms.no_term"),
            TermsMode.ALL: ("terms.found", "terms.missing"),
            TermsMode.NONE: ("terms.absent", "terms.forbidden"),
        }[rule.mode][not passed]
        return Finding(passed=passed, code=code, data={"hits": found[:_SHOWN], "missing": missing[:_SHOWN]})

    return check
