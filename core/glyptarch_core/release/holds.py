"""Conditions that hold a finished post for review.

Each kind is a class and a function.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Annotated, Any, Literal, TypeAlias

from pydantic import Field

from glyptarch_core.item import Media
from glyptarch_core.settings import RuleSettings
from glyptarch_core.term_text import TermText
from glyptarch_core.text import Passage, Term, plain_text
from glyptarch_core.trace import Json, Note, Stage

__all__ = ["HOLD_RULES", "Finished", "HoldRule", "compile_holds"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Finished:
    """The parts of a post that conditions may examine."""

    title: str
    body: str
    excerpt: str
    lead: Media | None
    categories: tuple[str, ...]
    fell_back: bool
    unread_fields: tuple[str, ...] = ()


class _HoldBase(RuleSettings):
    """Settings common to all conditions."""


class NoPicture(_HoldBase):
    """The post has no lead image."""

    kind: Literal["no_picture"] = "no_picture"


class FewWords(_HoldBase):
    """Body and excerpt together are shorter than this many words, whichever is longer."""

    kind: Literal["few_words"] = "few_words"
    fewer_than: int = Field(default=40, ge=1, le=100_000)


class NoCategory(_HoldBase):
    """No category, or only the usual one because no rule found another."""

    kind: Literal["no_category"] = "no_category"


class Words(_HoldBase):
    """The finished title or body has one of the terms."""

    kind: Literal["words"] = "words"
    terms: tuple[TermText, ...] = Field(min_length=1, max_length=500)


class UnreadField(_HoldBase):
    """A custom field could not be filled with a value of its type."""

    kind: Literal["unread_field"] = "unread_field"


HoldRule: TypeAlias = Annotated[NoPicture | FewWords | NoCategory | Words | UnreadField, Field(discriminator="kind")]

Hold: TypeAlias = Callable[[Finished], Mapping[str, Json] | None]
"""A compiled condition: what it found, or None where it does not hold the post."""


def _no_picture(_rule: NoPicture) -> Hold:
    return lambda post: None if post.lead else {}


def _few_words(rule: FewWords) -> Hold:
    def look(post: Finished) -> Mapping[str, Json] | None:
        words = max(Passage.of_html(post.body).word_count, Passage.of_text(post.excerpt).word_count)
        return {"words": words, "fewer_than": rule.fewer_than} if words < rule.fewer_than else None

    return look


def _no_category(_rule: NoCategory) -> Hold:
    return lambda post: {"category": ", ".join(post.categories)} if post.fell_back or not post.categories else None


def _words(rule: Words) -> Hold:
    terms = [Term.parse(text) for text in rule.terms]

    def look(post: Finished) -> Mapping[str, Json] | None:
        text = Passage.of_text(f"{post.title}\n{plain_text(post.body) or post.excerpt}")
        present: list[Json] = [term.text for term in terms if text.has(term)]
        return {"terms": present[:12]} if present else None

    return look


def _unread_field(_rule: UnreadField) -> Hold:
    return lambda post: {"fields": list(post.unread_fields)} if post.unread_fields else None


HOLD_RULES: Mapping[type[_HoldBase], Callable[[Any], Hold]] = {
    NoPicture: _no_picture,
    FewWords: _few_words,
    NoCategory: _no_category,
    Words: _words,
    UnreadField: _unread_field,
}


def compile_holds(rules: tuple[HoldRule, ...]) -> Callable[[Finished], list[Note]]:
    """Compile the conditions that are on.

    The function returns a note for each, against the post where met.
    """
    compiled = [(rule, HOLD_RULES[type(rule)](rule)) for rule in rules if rule.on]

    def ask(post: Finished) -> list[Note]:
        notes = []
        for rule, look in compiled:
            note = look(post)
            code = f"hold.{rule.kind}" if note is not None else "hold.no"
            against, data = note is not None, note or {}
            notes.append(
                Note(
                    stage=Stage.RELEASE,
                    rule=rule.id,
                    rule_title=rule.title,
                    code=code,
                    against=against,
                    data=data,
                )
            )
        return notes

    return ask
