"""Terms: words to look for in a text, as a person writes them."""

import re
import unicodedata
from dataclasses import dataclass, field

from glyptarch_core.text.words import fold, separated, stem_of, word_pattern

__all__ = ["Hit", "Term"]


@dataclass(frozen=True, slots=True)
class Hit:
    """A place in a text, in characters from its start: ``text[start:end]``."""

    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Term:
    """Words to find one after another.

    A word ending in ``*`` matches every word with that beginning. With ``stem`` (a language) the words are stems and
    are compared with stems of a text. A term of emoji alone has ``signs`` and no ``words``.
    """

    text: str
    words: tuple[tuple[str, bool], ...]
    stem: str = ""
    signs: re.Pattern[str] | None = None
    run: str | None = field(init=False, repr=False, compare=False)
    """The folded words between spaces, to be looked for as one string; None where a ``*`` stands before the last."""

    def __post_init__(self) -> None:
        if not self.words:
            object.__setattr__(self, "run", None)
            return
        whole = not any(prefix for _, prefix in self.words[:-1])
        end = "" if self.words[-1][1] else " "
        run = f" {' '.join(word for word, _ in self.words)}{end}" if whole else None
        object.__setattr__(self, "run", run)

    @classmethod
    def parse(cls, text: str, *, stem: str = "") -> "Term":
        """Parse a term as a person writes it.

        Quotes around a phrase are allowed and ignored. Raises ValueError where neither word nor emoji is left.
        """
        words = [
            (fold(match.group()), text[match.end() : match.end() + 1] == "*")
            for match in word_pattern(text).finditer(separated(text))
        ]
        if not words:
            return cls(text=text.strip(), words=(), signs=_signs(text))
        stemmed = tuple((word if prefix else stem_of(word, stem), prefix) for word, prefix in words)
        return cls(text=text.strip().strip('"“”').strip(), words=stemmed, stem=stem)


# Emoji are symbols with skin modifiers, joiners, and variation selectors (UTS #51).
_SIGNS = frozenset({"So", "Sk"})
_JOINER, _LOOK = "\u200d", "\ufe0f"


def _signs(text: str) -> re.Pattern[str]:
    """Return the pattern of a term of emoji.

    Variation selectors are ignored, because writers leave them out.
    """
    bare = "".join(text.replace(_LOOK, "").split())
    if not any(unicodedata.category(char) in _SIGNS for char in bare):
        raise ValueError(f"“{text}” has no word in it")
    kept = [char for char in bare if unicodedata.category(char) in _SIGNS or char == _JOINER]
    return re.compile("".join(f"{re.escape(char)}{_LOOK}?" for char in kept))
