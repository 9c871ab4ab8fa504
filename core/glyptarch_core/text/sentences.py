"""Sentence ends, by the end marks of the scripts.

Not after an abbreviation, an initial or a day.
"""

import re
from collections.abc import Iterator
from functools import cache
from itertools import islice
from typing import NamedTuple

from glyptarch_core.languages import language_of
from glyptarch_core.text.words import MARKS

__all__ = ["sentences"]

# Ordinary words unless a number follows: "He said no. Then he left."
_BEFORE_NUMBERS = frozenset({"no", "abb", "art", "bd", "mag"})
# An end mark, closing quotes or brackets, then a space before a possible beginning. Marks of scripts without another
# use for them need no space.
_CLOSING = "\"'”’“‘»«›‹)\\]"
_OWN_CLOSING = "」』）】》”’)\\]\"'"
_END = re.compile(rf"([.!?…؟۔։]+[{_CLOSING}]*)\s+(?=[\"'“‘„‚«»‹›(\[¿¡]*\s?[^\W_])|([。！？।॥။።]+[{_OWN_CLOSING}]*)")
# Quoted speech with its speaker. Such scripts have no capitals to show that the sentence goes on.
_SPEECH = re.compile(r"[。！？।॥။።][」』”’\"']+")
# These end a sentence only before a capital.
_PAUSES = frozenset({"…", "..."})
_MARK = re.compile(r"[.!?…؟۔։。！？।॥။።]")
_MARKS = re.compile(r"[.!?…؟۔։]+|[。！？।॥။።]")
_NEXT_WORD = re.compile(r"[\W_]*([^\W_]*)")
_NO_WORD = re.compile(rf"[^\w.{MARKS}]")
_POINTS_WITHIN = re.compile(r"[^\W\d_]{1,2}(?:\.[^\W\d_]{1,2})+")
_INITIAL = re.compile(r"[^\W\d_]\.?")
_DAY = re.compile(r"\d{1,2}")
_LONGEST_WORD = 24


class _Words(NamedTuple):
    """Words of a language, beside those that harm none.

    A title stands before a name, an opener has a capital at the beginning of a sentence only.
    """

    titles: frozenset[str]
    abbreviations: frozenset[str]
    openers: frozenset[str]
    after_ordinals: frozenset[str]


@cache
def _words_of(language: str) -> _Words:
    records = (language_of(""), language_of(language))
    parts = (frozenset().union(*(getattr(record, name) for record in records)) for name in _Words._fields)
    titles, abbreviations, openers, after_ordinals = parts
    return _Words(titles, titles | abbreviations, openers, after_ordinals)


def _goes_on(before: str, after: str, known: _Words) -> bool:
    """Whether a sentence goes on after a full stop, by the words on both sides."""
    written, opening = _NO_WORD.split(before)[-1], _word_after(after)
    word = written.lower()
    if word in _BEFORE_NUMBERS:
        return opening[:1].isdigit()
    if word in known.titles or written == "M":
        return True
    if _DAY.fullmatch(word):
        return before.strip() == word or opening.lower() in known.after_ordinals
    if word in known.abbreviations or _POINTS_WITHIN.fullmatch(word) or _INITIAL.fullmatch(word):
        return opening.lower() not in known.openers
    return False


def _word_after(text: str) -> str:
    match = _NEXT_WORD.match(text)
    return match.group(1) if match else ""


def _ends(text: str) -> Iterator[re.Match[str]]:
    """Yield the end marks after which a sentence may begin.

    Searching for the mark first is faster.
    """
    at = 0
    while mark := _MARK.search(text, at):
        end = _END.match(text, mark.start())
        if end:
            yield end
            at = end.end()
        else:
            # The text after the whole run of marks decides, for each of them.
            run = _MARKS.match(text, mark.start())
            at = run.end() if run else mark.end()


def sentences(text: str, most: int | None = None, *, language: str = "") -> list[str]:
    """Split one paragraph of plain text into sentences.

    Joined by spaces they give the paragraph. ``most`` limits the number of sentences and the text that is read;
    ``language`` (BCP 47) knows more abbreviations.
    """
    return list(islice(_sentences(text, _words_of(language.partition("-")[0].lower())), most))


def _sentences(text: str, known: _Words) -> Iterator[str]:
    start = 0
    for match in _ends(text):
        end = match.end(1) if match.group(1) else match.end(2)
        after = text[match.end() : match.end() + _LONGEST_WORD]
        first = _word_after(after)[:1]
        if match.group(1) and (first.islower() or (match.group(1) in _PAUSES and not first.isupper())):
            continue
        if match.group(1) == "." and _goes_on(text[max(start, end - _LONGEST_WORD) : end - 1], after, known):
            continue
        if match.group(2) and _SPEECH.fullmatch(match.group(2)) and _word_after(after.lstrip()[:1]):
            continue
        yield text[start:end].strip()
        start = match.end()
    rest = text[start:].strip()
    if rest:
        yield rest
