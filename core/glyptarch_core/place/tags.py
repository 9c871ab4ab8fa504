"""The rules that choose tags.

Each kind is a settings class and a function.
"""

from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import Annotated, Any, Literal, TypeAlias

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.place.base import Found, NameFinder, PlaceRuleBase
from glyptarch_core.ports import BlogContext
from glyptarch_core.text import hashtags, key_phrases
from glyptarch_core.trace import Note, Stage

__all__ = ["TAG_RULES", "HashtagTags", "SourceTags", "TagRule", "TermTags", "TitleTags"]


class SourceTags(PlaceRuleBase):
    """The categories that the source gives."""

    kind: Literal["source"] = "source"


class HashtagTags(PlaceRuleBase):
    """The hashtags in title and text."""

    kind: Literal["hashtags"] = "hashtags"


class TermTags(PlaceRuleBase):
    """The terms that Sift rules found in the item, as written there."""

    kind: Literal["matched"] = "matched"

    @property
    def looks_at_trace(self) -> bool:
        """Whether the rule reads the notes of Sift.

        Always true.
        """
        return True


class TitleTags(PlaceRuleBase):
    """The key phrases of the title, ranked by repetition in the text.

    A phrase is a run of words between stop words.
    """

    kind: Literal["title"] = "title"
    at_most: int = Field(default=3, ge=1, le=20)
    least_letters: int = Field(default=4, ge=1, le=30)


TagRule: TypeAlias = Annotated[SourceTags | HashtagTags | TermTags | TitleTags, Field(discriminator="kind")]


def _source(_rule: SourceTags) -> NameFinder:
    def give(captured: Captured, _trace: Sequence[Note], _context: BlogContext) -> Sequence[Found]:
        return [Found(word.lstrip("#"), word) for word in captured.item.categories if word.strip("# ")]

    return give


def _hashtags(_rule: HashtagTags) -> NameFinder:
    def give(captured: Captured, _trace: Sequence[Note], _context: BlogContext) -> Sequence[Found]:
        features = captured.features
        tags = hashtags(f"{features.title.text} {features.main_text.text}")
        return [Found(word, f"#{word}") for word in dict.fromkeys(tags)]

    return give


def _hits(note: Note) -> Iterator[Found]:
    hits = note.data.get("hits")
    for hit in hits if isinstance(hits, Sequence) else ():
        if isinstance(hit, Mapping) and hit.get("match"):
            yield Found(str(hit["match"]).lower(), str(hit["term"]))


def _matched(_rule: TermTags) -> NameFinder:
    def give(_captured: Captured, trace: Sequence[Note], _context: BlogContext) -> Sequence[Found]:
        asked = [note for note in trace if note.stage is Stage.SIFT and not note.against]
        return [hit for note in asked for hit in _hits(note)]

    return give


def _title(rule: TitleTags) -> NameFinder:
    def give(captured: Captured, _trace: Sequence[Note], context: BlogContext) -> Sequence[Found]:
        features = captured.features
        phrases = key_phrases(
            features.title,
            features.main_text,
            language=captured.language or context.language,
            at_most=rule.at_most,
            least_letters=rule.least_letters,
        )
        return [Found(phrase, "") for phrase in phrases]

    return give


TAG_RULES: Mapping[type[PlaceRuleBase], Callable[[Any], NameFinder]] = {
    SourceTags: _source,
    HashtagTags: _hashtags,
    TermTags: _matched,
    TitleTags: _title,
}
