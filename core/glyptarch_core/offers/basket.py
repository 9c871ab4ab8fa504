"""A reader's list of products, and its way to the shop's basket."""

from collections.abc import Iterable, Mapping
from urllib.parse import quote

__all__ = ["MOST_LINES", "MOST_PIECES", "hand_over", "read_lines", "with_line", "written_lines"]

MOST_LINES = 50
MOST_PIECES = 99
_LONGEST = 2000


def read_lines(text: str) -> dict[int, int]:
    """Return the pieces of each product, by its row, of a written list. Empty for anything else."""
    lines: dict[int, int] = {}
    for part in text[:_LONGEST].split("-") if text else ():
        row, _, pieces = part.partition(".")
        if not (row.isascii() and row.isdigit() and pieces.isascii() and pieces.isdigit()):
            return {}
        lines[int(row)] = min(max(int(pieces), 1), MOST_PIECES)
    return dict(list(lines.items())[:MOST_LINES])


def written_lines(lines: Mapping[int, int]) -> str:
    """Return a list as text that a cookie can hold (RFC 6265, 4.1.1)."""
    return "-".join(f"{row}.{pieces}" for row, pieces in lines.items())


def with_line(lines: Mapping[int, int], row: int, pieces: int) -> dict[int, int]:
    """Return a list with so many pieces of a product.

    None removes it.

    Raises ValueError for fewer than none, for too many pieces, and where the list is full.
    """
    if not 0 <= pieces <= MOST_PIECES:
        raise ValueError("pieces")
    if not pieces:
        return {other: number for other, number in lines.items() if other != row}
    if row not in lines and len(lines) >= MOST_LINES:
        raise ValueError("lines")
    return {**lines, row: pieces}


def hand_over(address: str, lines: Iterable[tuple[str, int]]) -> str:
    """Return the address of a shop's own basket with a list in it.

    ``{items}`` in the address stands for ``number:pieces``, joined by commas.
    """
    return address.replace("{items}", ",".join(f"{quote(number, safe='')}:{pieces}" for number, pieces in lines))
