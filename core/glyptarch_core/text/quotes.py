"""Typographic quotation marks, apostrophes and primes in place of straight ones."""

import re
from collections.abc import Sequence

from glyptarch_core.languages import language_of

__all__ = ["typographic"]

_APOSTROPHE, _PRIME, _DOUBLE_PRIME = "’", "′", "″"
_MAY_OPEN = frozenset("([{<—–-/„“‚‘«¿¡\"'")
# Words without their beginning: 'n', 'tis, the '90s; Dutch 't, 's and 'n.
_SHORTENED = re.compile(r"'(?:n'|tis\b|twas\b|em\b|til\b|cause\b|bout\b|[tsn]\b|\d\d(?!\d))", re.IGNORECASE)


def typographic(pieces: Sequence[str], language: str) -> list[str]:
    """Replace straight marks in one run of text, given as the pieces between inline elements.

    A mark opens before a word and closes elsewhere; after a digit a mark that closes nothing is a prime (feet, inches,
    minutes). A language (BCP 47) with unknown marks changes nothing.
    """
    marks = language_of(language).quotes
    if marks is None:
        return list(pieces)
    whole = "".join(pieces)
    set_marks = _marks_in(whole, marks)
    replaced: list[str] = []
    begin = 0
    for piece in pieces:
        end = begin + len(piece)
        replaced.append("".join(set_marks.get(position, whole[position]) for position in range(begin, end)))
        begin = end
    return replaced


def _marks_in(text: str, marks: tuple[str, str, str, str]) -> dict[int, str]:
    """Return the replacement of each straight mark, by its position."""
    opening, closing, inner_opening, inner_closing = marks
    replacements: dict[int, str] = {}
    open_double = open_single = False
    for match in re.finditer("[\"']", text):
        at = match.start()
        before, after = text[at - 1 : at], text[at + 1 : at + 2]
        begins = (not before or before.isspace() or before in _MAY_OPEN) and bool(after) and not after.isspace()
        if match.group() == '"':
            if begins and not open_double:
                replacements[at], open_double = opening, True
            elif open_double or not before.isdigit():
                replacements[at], open_double = closing, False
            else:
                replacements[at] = _DOUBLE_PRIME
        elif (before.isalnum() and after.isalpha()) or _SHORTENED.match(text, at):
            replacements[at] = _APOSTROPHE
        elif begins and not open_single:
            replacements[at], open_single = inner_opening, True
        elif open_single:
            replacements[at], open_single = inner_closing, False
        else:
            replacements[at] = _PRIME if before.isdigit() else _APOSTROPHE
    return replacements
