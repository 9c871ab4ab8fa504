"""The same in other words, by a blog's own list of synonyms.

The list gives word forms itself: ``walk/walks/walked`` stands for ``stroll/strolls/strolled``, or for
``amble/ambles/ambled`` after a bar. So no form is guessed, in any language. Names and quotations are left alone.
"""

import re
import zlib
from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from glyptarch_core.languages import language_of
from glyptarch_core.text import Passage
from glyptarch_core.text.quotations import quotations

__all__ = ["Synonym", "Synonyms", "read_synonym", "same_runs"]

_MOST_FORMS = 20
_BEGINS = re.compile(r"(?:^|[.!?…:。！？؟।]['\"”’»)\]]*\s+|[–—]\s+|^['\"“„«(\[]*)$")
_LOOKED_BACK = 12
_VOWELS = frozenset("aeiouàâäáéèêëíìîïóòôöúùûüœæ")
# Articles and elisions depend on the sound that follows, in these languages before almost any word.
_SOUNDS_MATTER = frozenset({"fr", "it", "ca"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Synonym:
    """A line of the list: the forms of a word, and words that can stand for it.

    Those have as many forms each.
    """

    forms: tuple[str, ...]
    others: tuple[tuple[str, ...], ...]


def read_synonym(what: str, by: str) -> Synonym:
    """Read a line of the list. Raises ValueError where forms are missing, or are not as many."""
    forms = _forms(what)
    others = tuple(_forms(other) for other in by.split("|") if other.strip())
    if not forms or not others:
        raise ValueError(f"“{what}” needs another word beside it")
    odd = next((other for other in others if len(other) != len(forms)), None)
    if odd is not None:
        raise ValueError(
            f"“{what}” has {len(forms)} forms and “{'/'.join(odd)}” {len(odd)}: write as many on both sides"
        )
    return Synonym(forms=forms, others=others)


def _forms(text: str) -> tuple[str, ...]:
    return tuple(" ".join(form.split()) for form in text.split("/")[:_MOST_FORMS] if form.strip())


@dataclass(frozen=True, slots=True)
class _Place:
    begin: int
    end: int
    words: int
    others: tuple[str, ...]


class Synonyms:
    """A list of synonyms that is looked up word by word, however long it is."""

    def __init__(self, lines: Sequence[Synonym]) -> None:
        # By the first folded word: the number of words, the form, and what can stand for it.
        self._forms: dict[str, list[tuple[int, str, tuple[str, ...]]]] = {}
        for line in lines:
            for number, form in enumerate(line.forms):
                words = Passage(form).words
                if words:
                    others = tuple(other[number] for other in line.others)
                    self._forms.setdefault(words[0], []).append((len(words), form, others))
        for same_beginning in self._forms.values():
            # The longest is tried first.
            same_beginning.sort(key=lambda entry: -entry[0])

    def changes(self, text: str, *, language: str, seed: str, share: float) -> list[tuple[int, int, str]]:
        """Return begin, end and new text for the words of a paragraph to change, in order.

        At most ``share`` of its words change (0 to 1). Which of them, and to what, depends on ``seed`` alone, so that
        an item gets the same text again.
        """
        passage = Passage(text)
        places = list(self._places(passage, language))
        room = int(len(passage.words) * share)
        chosen: list[_Place] = []
        for place in sorted(places, key=lambda place: _draw(seed, place.begin)):
            if place.words <= room:
                chosen.append(place)
                room -= place.words
        chosen.sort(key=lambda place: place.begin)
        return [(place.begin, place.end, _written(text, place, seed)) for place in chosen]

    def _places(self, passage: Passage, language: str) -> Iterator[_Place]:
        words = passage.words
        if self._forms.keys().isdisjoint(words):
            return
        spared = quotations(passage.text)
        ends = [end for _, end in spared]
        number = 0
        while number < len(words):
            begin, end = passage.spans[number]
            place = bisect_right(ends, begin)
            is_quoted = place < len(spared) and spared[place][0] < end
            found = None if is_quoted else self._at(passage, number, language)
            if found is not None:
                yield found
                number += found.words
            else:
                number += 1

    def _at(self, passage: Passage, number: int, language: str) -> _Place | None:
        text, spans = passage.text, passage.spans
        for length, form, others in self._forms.get(passage.words[number], ()):
            if number + length > len(spans):
                continue
            begin, end = spans[number][0], spans[number + length - 1][1]
            shown = text[begin:end]
            if not _is_form(shown, form) or _is_name(passage, number, length, form, language):
                continue
            before = text[spans[number - 1][0] : begin] if number else ""
            fitting = tuple(other for other in others if _sounds_right(shown, other, before, language))
            if fitting:
                return _Place(begin, end, length, fitting)
        return None


def _is_form(shown: str, form: str) -> bool:
    """Whether a text has this form, accents included. Small letters may stand as capitals."""
    words, wanted = shown.split(), form.split()
    return len(words) == len(wanted) and all(
        word == want or word[0].lower() + word[1:] == want for word, want in zip(words, wanted, strict=True)
    )


def _is_name(passage: Passage, number: int, length: int, form: str, language: str) -> bool:
    """Whether a word is, or belongs to, a name.

    Then it has a capital that its place in the sentence does not explain.
    """
    text, spans = passage.text, passage.spans
    begin, end = spans[number][0], spans[number + length - 1][1]
    if not text[begin].isupper() or form[0].isupper():
        return False
    if _BEGINS.search(text, max(0, begin - _LOOKED_BACK), begin) is None:
        return True
    if language_of(language).nouns_have_capitals:
        return False
    # “Big Dipper” at the beginning of a sentence.
    follows = spans[number + length][0] if number + length < len(spans) else None
    return follows is not None and text[end:follows].isspace() and text[follows].isupper()


def _sounds_right(shown: str, other: str, before: str, language: str) -> bool:
    """Whether articles before a word fit what stands for it.

    “a large” does not become “a enormous”.
    """
    same = (_first_sound(shown) in _VOWELS) is (_first_sound(other) in _VOWELS)
    code = language.partition("-")[0].lower()
    if code in _SOUNDS_MATTER:
        return same
    return same or code != "en" or before.strip().lower() not in {"a", "an"}


def _first_sound(text: str) -> str:
    return text[:1].lower()


def _written(text: str, place: _Place, seed: str) -> str:
    other = place.others[_draw(f"{seed} which", place.begin) % len(place.others)]
    return other[0].upper() + other[1:] if text[place.begin].isupper() else other


def _draw(seed: str, at: int) -> int:
    return zlib.crc32(f"{seed} {at}".encode("utf-8", "surrogatepass"))


def same_runs(before: str, after: str) -> float:
    """Return the share of three-word runs of a text that stand in another as they are, 0 to 1."""
    known, runs = set(_runs(before)), list(_runs(after))
    return sum(run in known for run in runs) / len(runs) if runs else 1.0


def _runs(text: str) -> Iterator[tuple[str, ...]]:
    words = Passage(text).words
    yield from zip(words, words[1:], words[2:], strict=False)
