"""Where a sentence ends: a full stop after a known abbreviation or an initial does not end one."""

import re
from collections.abc import Iterator
from itertools import islice

__all__ = ["sentences"]

_ABBREVIATIONS = frozenset(
    "al approx apr aug b.sc bzw ca cf co col corp dec dept dr ed eds e.g est etc feb fig ft gen gov hon i.e inc jan jr "
    "jul jun km lt ltd mar max min mr mrs ms mt no nov nr oct op p ph.d pp prof rep rev sen sep sept sr st str usw u.s "
    "v vgl vol vs z.b".split()
)
# An end mark, closing quotes or brackets, then space before something that can open a sentence;
# the ideographic full stop needs no space after it.
_END = re.compile(r"([.!?…]+[\"'”’»)\]]*)\s+(?=[\"'“‘«(\[¿¡]*[^\W_a-zß-öø-ÿ])|([。！？]+[」』）]*)")
# A word of its own where no number follows: "He said no. Then he left."
_BEFORE_NUMBERS = frozenset({"no", "abb", "art", "bd"})
_MARK = re.compile(r"[.!?…。！？]")
_MARKS = re.compile(r"[.!?…]+|[。！？]")
_NO_WORD = re.compile(r"[^\w.]")


def _is_abbreviation(before: str, after: str) -> bool:
    """Tell whether a full stop belongs to the word before it, by the character that comes next."""
    word = _NO_WORD.split(before)[-1].lower()
    if word in _BEFORE_NUMBERS:
        return after.isdigit()
    return word in _ABBREVIATIONS or (len(word) == 1 and word.isalpha())


def _ends(text: str) -> Iterator[re.Match[str]]:
    """Find the end marks after which a sentence could begin; looking for a mark first is quicker."""
    at = 0
    while mark := _MARK.search(text, at):
        end = _END.match(text, mark.start())
        if end:
            yield end
            at = end.end()
        else:
            # What follows the whole run of marks decides; it is the same for each of them.
            run = _MARKS.match(text, mark.start())
            at = run.end() if run else mark.end()


def sentences(text: str, most: int | None = None) -> list[str]:
    """Split one paragraph of plain text into sentences; joined by spaces they give the paragraph.

    With ``most`` only so many from the beginning, looking no further.
    """
    return list(islice(_sentences(text), most))


def _sentences(text: str) -> Iterator[str]:
    start = 0
    for match in _ends(text):
        end = match.end(1) if match.group(1) else match.end(2)
        if match.group(1) == "." and _is_abbreviation(
            text[max(start, end - 24) : end - 1], text[match.end() : match.end() + 1]
        ):
            continue
        yield text[start:end].strip()
        start = match.end()
    rest = text[start:].strip()
    if rest:
        yield rest
