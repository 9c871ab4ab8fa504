"""CSV for people who open it in a spreadsheet (RFC 4180)."""

import csv
import io
from collections.abc import Iterable, Sequence

__all__ = ["csv_lines"]


def csv_lines(rows: Iterable[Sequence[str]]) -> bytes:
    """Return rows as CSV in UTF-8. Texts that spreadsheets would read as formulas are escaped."""
    text = io.StringIO()
    csv.writer(text).writerows([[_harmless(value) for value in row] for row in rows])
    return text.getvalue().encode()


def _harmless(value: str) -> str:
    return f"'{value}" if value.startswith(("=", "+", "-", "@", "\t", "\r")) else value
