"""Where somebody is quoted in a paragraph, by the quotation marks of many languages."""

import re
from collections.abc import Mapping
from typing import Final

__all__ = ["quotations"]

# Opening marks with those that may close them (CLDR, “quotationStart” and “quotationEnd”, and common practice).
_CLOSING: Final[Mapping[str, str]] = {
    "“": "”“",
    "„": "“”",
    "«": "»",
    "»": "«»",
    "‚": "‘’",
    "‹": "›",
    "「": "」",
    "『": "』",
    "《": "》",
    "〈": "〉",
    '"': '"',
}
_CLOSED_BY = {mark: re.compile(f"[{closing}]") for mark, closing in _CLOSING.items()}
_CURLED = "".join(mark for mark in _CLOSING if mark != '"')
# A straight mark after a word or number closes, or is a sign of inches.
_OPENS = re.compile(rf"[{_CURLED}]|(?<!\w)\"(?=\S)")
# A single mark opens only after a space and before a letter, and closes only after a letter or sign: “don’t” has none.
_SINGLE = re.compile(r"(?<!\w)[‘'](?=\w)[^‘’'\n]*?(?:\w['’]\w[^‘’'\n]*?)*['’](?!\w)")


def quotations(text: str) -> list[tuple[int, int]]:
    """Return where quotations begin and end in one paragraph, marks included.

    They are in order and apart from each other. One that is not closed goes on to the end: speech over several
    paragraphs closes in the last alone.
    """
    found: list[tuple[int, int]] = []
    at = 0
    while mark := _OPENS.search(text, at):
        closed = _CLOSED_BY[mark[0]].search(text, mark.end())
        at = closed.end() if closed else mark.end()
        if closed:
            found.append((mark.start(), at))
        elif mark[0] == "»":
            # It closes what began before this text.
            found.append((0, at))
        elif mark[0] != '"':
            found.append((mark.start(), len(text)))
            break
    return _apart(sorted([*found, *(match.span() for match in _SINGLE.finditer(text))]))


def _apart(spans: list[tuple[int, int]]) -> list[tuple[int, int]]:
    """Return spans in order with those joined that overlap."""
    apart: list[tuple[int, int]] = []
    for begin, end in spans:
        if apart and begin < apart[-1][1]:
            apart[-1] = (apart[-1][0], max(end, apart[-1][1]))
        else:
            apart.append((begin, end))
    return apart
