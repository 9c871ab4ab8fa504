"""Hits as shown in a trace."""

from glyptarch_core.text import Hit, Passage
from glyptarch_core.trace import Json

__all__ = ["SHOWN", "shown"]

SHOWN = 12
"""How many terms a finding lists at most."""

_AROUND = 60


def shown(term: str, where: str, passage: Passage, hit: Hit, times: int) -> dict[str, Json]:
    """Return a hit with the words around it, and the number of occurrences of the term."""
    end = min(len(passage.text), hit.end + _AROUND)
    start, end = _whole_words(passage.text, max(0, hit.start - _AROUND), hit, end)
    return {
        "term": term,
        "in": where,
        "start": hit.start,
        "end": hit.end,
        "before": passage.text[start : hit.start],
        "match": passage.text[hit.start : hit.end],
        "after": passage.text[hit.end : end],
        "times": times,
    }


def _whole_words(text: str, start: int, hit: Hit, end: int) -> tuple[int, int]:
    """Draw the ends of a snippet in to the next space, so that it shows no half word."""
    if start > 0:
        start = text.find(" ", start, hit.start) + 1 or hit.start
    if end < len(text):
        space = text.rfind(" ", hit.end, end)
        end = space if space >= 0 else hit.end
    return start, end
