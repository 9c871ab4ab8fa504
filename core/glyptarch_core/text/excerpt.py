"""Plain text cut at a number of words, sentences or paragraphs."""

from enum import StrEnum

from glyptarch_core.text.measure import first_words
from glyptarch_core.text.sentences import sentences

__all__ = ["Unit", "cut"]


class Unit(StrEnum):
    """The unit of an excerpt's length."""

    WORDS = "words"
    SENTENCES = "sentences"
    PARAGRAPHS = "paragraphs"
    CHARACTERS = "characters"


def _first_characters(text: str, count: int, ellipsis: str) -> str:
    if len(text) <= count:
        return text
    # The ellipsis counts, and no word is broken while there is an earlier space.
    room = max(1, count - len(ellipsis))
    whole = text[: room + 1].rpartition(" ")[0].rstrip() or text[:room]
    return f"{whole.rstrip(',;:–—-')}{ellipsis}"


def _first_sentences(blocks: list[str], count: int, language: str) -> str:
    kept: list[str] = []
    for block in blocks:
        result = sentences(block, count, language=language)
        kept.append(" ".join(result))
        count -= len(result)
        if count <= 0:
            break
    return "\n\n".join(kept)


def cut(blocks: list[str], *, unit: Unit, count: int, ellipsis: str = "…", language: str = "") -> str:
    """Cut blocks of text to ``count`` units.

    Whole paragraphs are separated by an empty line. Words never break; only a cut inside a sentence gets the ellipsis.
    ``language`` (BCP 47) tells where sentences end.
    """
    match unit:
        case Unit.WORDS:
            return first_words("\n\n".join(blocks), count, ellipsis=ellipsis)
        case Unit.SENTENCES:
            return _first_sentences(blocks, count, language)
        case Unit.CHARACTERS:
            return _first_characters("\n\n".join(blocks), count, ellipsis)
        case Unit.PARAGRAPHS:
            return "\n\n".join(blocks[:count])
