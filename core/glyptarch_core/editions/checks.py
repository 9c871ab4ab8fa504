"""Whether the answer of a language service may stand in the place of a text.

An answer is data. What was in the text must be in it: each mark, number, name, address and fixed word; and nothing else
that can be told apart. What cannot be told apart is the meaning: a wrong word of the right length passes.
"""

import html
import re
from collections import Counter
from collections.abc import Iterator, Mapping
from typing import Final, NamedTuple

from glyptarch_core.editions.blocks import ADDRESS, MARK, mark_tokens, without_marks
from glyptarch_core.editions.figures import figures, unmatched
from glyptarch_core.editions.names import changed_names, common_words, foreign_words, names_in
from glyptarch_core.editions.terms import times
from glyptarch_core.editions.units import strange_units
from glyptarch_core.language_services import Answer, Ask, TextTask
from glyptarch_core.languages import base_language
from glyptarch_core.text import clean_text, count_words, fold, found_language, sentences
from glyptarch_core.text.quotations import quotations
from glyptarch_core.text.words import MARKS

__all__ = ["checked", "unwrapped"]

_FENCED = re.compile(r"\A```[\w-]*\n(.*?)\n?```\Z", re.DOTALL)
_ESCAPED = re.compile(r"&(?:amp|lt|gt|quot|apos|nbsp|#\d{1,7}|#x[0-9a-fA-F]{1,6});")
_MARKUP = re.compile(r"</?[a-zA-Z][^<>]*>|```|\]\(|\*\*|\{\{|\{%")
_ENDS = re.compile(r"[.!?…。！？؟।॥။።։۔:：]['\"”’“»«)\]」』）】›]*$")
# Thai, Lao and Khmer part sentences by a space.
_UNENDED = re.compile("[\u0e00-\u0eff\u1780-\u17ff][”’\"')]*$")
_AFTERNOON = re.compile(r"\d\s*[ap]\.?\s?m\b|午後|下午", re.IGNORECASE)
_SHORT = 40
_TOLD_IN_WORDS = 12
# How much a sign of these scripts says, in letters of an alphabet with vowels (measured on Debian's translations).
_HAN, _KANA = re.compile("[\u3400-\u9fff\uf900-\ufaff]"), re.compile("[\u3040-\u30ff]")
_MARKS = re.compile(f"[{MARKS}]")
_HANGUL, _NO_VOWELS = re.compile("[\uac00-\ud7af]"), re.compile("[\u0590-\u06ff]")
_HAN_ALONE, _HAN_WITH_KANA, _OF_KANA, _OF_HANGUL, _OF_NO_VOWELS = 3.3, 2.3, 1.5, 2.3, 1.2
_LEAST, _MOST = 0.66, 1.75
_LEAST_SHORT, _MOST_SHORT = 0.25, 4.0
_FEWEST_OF_A_LANGUAGE = 60
_FEWEST_OF_A_SENTENCE = 15
_FEWEST_SENTENCES = 4
_FEWEST_WORDS_OF_PROSE = 5
_ALIKE: Final = (
    frozenset("hr bs sr sh sl".split()),
    frozenset("nb nn no da sv".split()),
    frozenset("id ms jv su".split()),
    frozenset("cs sk".split()),
    frozenset("gl pt es ca an oc".split()),
    frozenset("ru uk be bg mk".split()),
    frozenset("fa ur ar ps ug".split()),
    frozenset("hi mr ne bh".split()),
    frozenset("nl af".split()),
    frozenset("it co la".split()),
    frozenset("de lb".split()),
    frozenset("fr wa oc".split()),
)
"""Languages of which a short text in one is easily taken for one in another."""


def unwrapped(answer: str, text: str) -> str:
    """Return an answer without what services put around it: a code fence, escapes."""
    # What no database holds and no XML has is in no text.
    answer = clean_text(answer).strip()
    fenced = _FENCED.match(answer)
    if fenced and "```" not in text:
        answer = fenced[1].strip()
    for _ in range(2):
        if _ESCAPED.search(answer) and not _ESCAPED.search(text):
            answer = html.unescape(answer)
    return answer.replace("\u00ad", "")


def checked(ask: Ask, answer: str, *, by: str) -> Answer:
    """Return an answer as it may be used, or the first fault that was found in it, by its code."""
    text = unwrapped(answer, ask.text)
    fault = next(_faults(ask, text), "")
    return Answer(text="" if fault else text, fault=fault, by=by)


def _faults(ask: Ask, answer: str) -> Iterator[str]:
    text, plain = without_marks(ask.text), without_marks(answer)
    if not plain:
        yield "empty"
        return
    yield from _of_form(ask.text, answer)
    if ask.task is TextTask.SUMMARISE:
        yield from _of_summary(ask, text, plain)
        return
    yield from _of_marks(ask.text, answer)
    yield from _of_facts(ask, text, plain)
    yield from _of_length(text, plain)
    yield from _of_language(ask, text, plain)
    if ask.task is TextTask.REWORD and any(text[begin:end] not in plain for begin, end in quotations(text)):
        yield "quotations"


def _of_form(text: str, answer: str) -> Iterator[str]:
    if "\n" in answer and "\n" not in text:
        yield "lines"
    invented = Counter(found[0] for found in _MARKUP.finditer(answer)) - Counter(
        found[0] for found in _MARKUP.finditer(text)
    )
    if invented:
        yield "markup"
    if set(ADDRESS.findall(MARK.sub(" ", answer))) - set(ADDRESS.findall(MARK.sub(" ", text))):
        yield "address"


def _of_marks(text: str, answer: str) -> Iterator[str]:
    before, after = _tree(text), _tree(answer)
    if before is None or after is None or _shape(before) != _shape(after):
        yield "marks"
        return
    if any(before[name].words and not after[name].words for name in before):
        yield "empty_mark"
    if list(before) == list(after):
        return
    # Elements in another order are as likely exchanged as moved, unless their words show it.
    moved = [name for name, other in zip(before, after, strict=True) if name != other]
    if any(not before[name].words or fold(before[name].words) != fold(after[name].words) for name in moved):
        yield "order"


class _Mark(NamedTuple):
    """A mark of a text: the number of the one around it, and its words.

    One that is ``void`` can have none.
    """

    outer: int
    void: bool
    words: str = ""


def _shape(marks: Mapping[int, _Mark]) -> dict[int, tuple[int, bool]]:
    return {number: (mark.outer, mark.void) for number, mark in marks.items()}


def _tree(text: str) -> dict[int, _Mark] | None:
    """Return the marks of a text by number, in order. None where they are not well-formed."""
    found: dict[int, _Mark] = {}
    open_marks: list[int] = []
    words: dict[int, list[str]] = {}
    for token in mark_tokens(text):
        if token.number < 0:
            for number in open_marks:
                words[number].append(token.words)
        elif token.closes:
            if not open_marks or open_marks.pop() != token.number:
                return None
            found[token.number] = found[token.number]._replace(words="".join(words[token.number]).strip())
        else:
            if token.number in found:
                return None
            found[token.number] = _Mark(open_marks[-1] if open_marks else 0, token.void)
            if not token.void:
                words[token.number] = []
                open_marks.append(token.number)
    return None if open_marks else found


def _of_facts(ask: Ask, text: str, plain: str) -> Iterator[str]:
    missing, added = unmatched(
        figures(text, ask.source), figures(plain, ask.target), hours=bool(_AFTERNOON.search(text))
    )
    if missing:
        yield "numbers"
    # A word such as “three” may be told in digits.
    if [figure for figure in added if not (figure.worth.isdigit() and int(figure.worth) <= _TOLD_IN_WORDS)]:
        yield "added_numbers"
    if strange_units(text, plain, ask.source or "en", ask.target or "en"):
        yield "units"
    if any(times(plain, word.by or word.forms, endings=True) < times(text, word.forms) for word in ask.fixed):
        yield "fixed"
    if changed_names(ask.names, plain) or foreign_words(
        " ".join([text, *(form for word in ask.fixed for form in word.by)]), plain
    ):
        yield "names"


def _letters(text: str) -> float:
    letters = sum(map(str.isalnum, text))
    if text.isascii():
        return letters
    # Vowels of many scripts are marks on a letter.
    letters += len(_MARKS.findall(text))
    kana = len(_KANA.findall(text))
    weights = (
        (len(_HAN.findall(text)), _HAN_WITH_KANA if kana else _HAN_ALONE),
        (kana, _OF_KANA),
        (len(_HANGUL.findall(text)), _OF_HANGUL),
        (len(_NO_VOWELS.findall(text)), _OF_NO_VOWELS),
    )
    return letters + sum(number * (weight - 1) for number, weight in weights)


def _of_length(text: str, plain: str) -> Iterator[str]:
    before, after = _letters(text), _letters(plain)
    least, most = (_LEAST, _MOST) if before >= _SHORT else (_LEAST_SHORT, _MOST_SHORT)
    if after < before * least:
        yield "short"
    if after > before * most + _SHORT:
        yield "long"
    if _ENDS.search(text) and not (_ENDS.search(plain) or _UNENDED.search(plain)):
        yield "cut_off"
    if _most_often(plain) > _most_often(text) or (_is_repeated(plain) and not _is_repeated(text)):
        yield "repeated"
    told, left = len(sentences(text)), len(sentences(plain))
    if told >= _FEWEST_SENTENCES and 2 * left <= told:
        yield "short"


def _is_repeated(text: str) -> bool:
    """Whether a text is the same one several times."""
    once = f"{text} "
    return len(text) >= _FEWEST_OF_A_SENTENCE and (once + once).find(once, 1) < len(once)


def _most_often(text: str) -> int:
    """Return how often the sentence stands in a text that stands there most often."""
    long = [fold(one) for one in sentences(text) if _letters(one) >= _FEWEST_OF_A_SENTENCE]
    return max(Counter(long).values(), default=1)


def _of_language(ask: Ask, text: str, plain: str) -> Iterator[str]:
    source, target = base_language(ask.source), base_language(ask.target)
    if ask.task is TextTask.TRANSLATE and source != target and fold(text) == fold(plain) and _is_prose(text):
        yield "untranslated"
    if not target or _letters(plain) < _FEWEST_OF_A_LANGUAGE:
        return
    found = base_language(found_language(plain))
    alike = frozenset({target}).union(*(group for group in _ALIKE if target in group)) - {source}
    if found and found not in alike | {target}:
        yield "language"


def _is_prose(text: str) -> bool:
    """Whether a text has words that are no names: five or more that begin with a small letter."""
    return sum(word[:1].islower() for word in text.split()) >= _FEWEST_WORDS_OF_PROSE


def _of_summary(ask: Ask, text: str, plain: str) -> Iterator[str]:
    if MARK.search(plain):
        yield "marks"
    if ask.words and count_words(plain) > ask.words:
        yield "long"
    if unmatched(figures(plain, ask.target), figures(text, ask.source), hours=False)[0]:
        yield "added_numbers"
    if changed_names(names_in(plain, ask.target, common=common_words(text)), text):
        yield "names"
    if not _ENDS.search(plain):
        yield "cut_off"
    yield from _of_language(ask, text, plain)
