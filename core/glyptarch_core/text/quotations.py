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
# A single mark opens only after a space and before a letter, and closes only after a letter or sign: “don’t” has none.
_SINGLE = re.compile(r"(?<!\w)[‘'](?=\w)(?P<quoted>[^‘’'\n]*?(?:\w['’]\w[^‘’'\n]*?)*)['’](?!\w)")
_ANY = re.compile("[" + "".join(map(re.escape, _CLOSING)) + "]")


def quotations(text: str) -> list[tuple[int, int]]:
    """Return where quotations begin and end in one paragraph, marks included, in order.

    One that is not closed goes on to the end: speech over several paragraphs closes in the last alone.
    """
    found: list[tuple[int, int]] = []
    at = 0
    while mark := _ANY.search(text, at):
        closing = _CLOSING[mark[0]]
        ends = [place for sign in closing if (place := text.find(sign, mark.end())) >= 0]
        if mark[0] == "»" and not ends:
            # It closes what began before this text.
            found.append((0, mark.end()))
            at = mark.end()
            continue
        if mark[0] == '"' and not ends:
            # A sign of inches, or a stray mark.
            break
        end = min(ends) + 1 if ends else len(text)
        found.append((mark.start(), end))
        at = end
    singles = ((match.start(), match.end()) for match in _SINGLE.finditer(text))
    found += [span for span in singles if not any(begin <= span[0] < end for begin, end in found)]
    return sorted(found)
