"""Terms: words to look for in a text, as a person writes them."""

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
    """Words to look for, one after another; a word ending in ``*`` stands for all that begin so.

    With ``stem`` (a language) the words are stems, and are compared with the stems of a text.
    """

    text: str
    words: tuple[tuple[str, bool], ...]
    stem: str = ""
    run: str | None = field(init=False, repr=False, compare=False)
    """The words as they stand among folded ones, between spaces; None where one before the last is a beginning."""

    def __post_init__(self) -> None:
        whole = not any(prefix for _, prefix in self.words[:-1])
        end = "" if self.words[-1][1] else " "
        run = f" {' '.join(word for word, _ in self.words)}{end}" if whole else None
        object.__setattr__(self, "run", run)

    @classmethod
    def parse(cls, text: str, *, stem: str = "") -> "Term":
        """Read a term as a person writes it: quotes around a phrase are allowed and mean nothing more.

        Raises ValueError when no word is left to look for.
        """
        words = [
            (fold(match.group()), text[match.end() : match.end() + 1] == "*")
            for match in word_pattern(text).finditer(separated(text))
        ]
        if not words:
            raise ValueError(f"“{text}” has no word in it")
        stemmed = tuple((word if prefix else stem_of(word, stem), prefix) for word, prefix in words)
        return cls(text=text.strip().strip('"“”').strip(), words=stemmed, stem=stem)
