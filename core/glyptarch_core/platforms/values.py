"""Untrusted JSON: missing, null and wrongly typed values read as empty."""

import math
import re
from collections.abc import Iterator
from datetime import datetime
from typing import Any

from glyptarch_core.errors import ParseError
from glyptarch_core.item import Media, MediaKind, MediaOrigin
from glyptarch_core.readers.dates import moment_of
from glyptarch_core.readers.decode import decode
from glyptarch_core.readers.model import resolve
from glyptarch_core.text import plain_text, text_to_html
from glyptarch_core.text.foreign_json import load_json, value_at
from glyptarch_core.text.prices import HIGHEST, amount_of

__all__ = ["Row", "loaded"]

_MARKUP = re.compile(r"<[a-zA-Z/][^<>]{0,500}>")


def loaded(body: bytes, content_type: str = "") -> "Row":
    """Read an answer as JSON. Raises ParseError."""
    text = decode(body, content_type).text.lstrip("\ufeff \t\r\n")
    try:
        return Row(load_json(text))
    except ValueError as error:
        raise ParseError("bad_json", f"The platform's answer is no JSON: {str(error)[:120]}.") from error


class Row:
    """A JSON value whose parts are found by paths, such as ``author.name``."""

    __slots__ = ("value",)

    def __init__(self, value: Any) -> None:  # noqa: ANN401 - whatever JSON holds
        self.value = value

    def at(self, path: str) -> "Row":
        """Return the value at a path."""
        return Row(value_at(self.value, path))

    def text(self, path: str = "") -> str:
        """Return a text or number as one line of text."""
        return " ".join(self.lines(path).split())

    def lines(self, path: str = "") -> str:
        """Return a text with its line breaks."""
        value = self.at(path).value
        if isinstance(value, str):
            return value.strip()
        return str(value) if isinstance(value, int | float) and not isinstance(value, bool) else ""

    def plain(self, path: str) -> str:
        """Return a text without markup and with its references resolved."""
        text = self.text(path)
        return plain_text(text) if "<" in text or "&" in text else text

    def markup(self, path: str) -> str:
        """Return a text as HTML.

        Plain text is converted.
        """
        text = self.lines(path)
        return text if _MARKUP.search(text) else text_to_html(text) if text else ""

    def number(self, path: str) -> float | None:
        """Return a finite number, also one written as text."""
        value = self.at(path).value
        try:
            number = float(value) if isinstance(value, int | float | str) and not isinstance(value, bool) else math.nan
        except (ValueError, OverflowError):
            return None
        return number if math.isfinite(number) else None

    def price(self, path: str) -> float | None:
        """Return the amount of a price.

        It is a number, or a text such as “1.299,00 €”, “$12.99” or “12,99”.
        """
        number = self.number(path)
        if number is None:
            amount = amount_of(self.text(path))
            return None if amount is None else float(amount)
        return number if 0 < number < HIGHEST else None

    def address(self, base: str) -> str:
        """Return an absolute address.

        Empty for one that names only a place in its own document.
        """
        text = self.text()
        return "" if text.startswith("#") else resolve(base, text)

    def whole(self, path: str) -> int | None:
        """Return a whole number that is not negative."""
        parsed = self.number(path)
        return int(parsed) if parsed is not None and parsed >= 0 and parsed == int(parsed) else None

    def moment(self, path: str) -> datetime | None:
        """Return a time."""
        return moment_of(self.text(path))

    def rows(self, path: str = "") -> Iterator["Row"]:
        """Yield the values of a list."""
        value = self.at(path).value
        return (Row(value_) for value_ in (value if isinstance(value, list) else ()))

    def texts(self, path: str) -> tuple[str, ...]:
        """Return the texts of a list, each once."""
        return tuple(dict.fromkeys(text for row in self.rows(path) if (text := row.text())))

    def picture(self, path: str, base: str, *, alt: str = "") -> tuple[Media, ...]:
        """Return the picture at a path: an address, or an object with ``url`` or ``href``."""
        row = self.at(path)
        address = resolve(base, row.text() or row.text("url") or row.text("href"))
        if not address:
            return ()
        sizes = (row.whole("width") or row.whole("w"), row.whole("height") or row.whole("h"))
        return (
            Media(
                url=address,
                kind=MediaKind.PICTURE,
                origin=MediaOrigin.FEED,
                width=sizes[0],
                height=sizes[1],
                alt=(row.text("alt") or row.text("caption") or alt)[:300],
            ),
        )

    def required_list(self, path: str) -> list["Row"]:
        """Return the rows of the answer's list. Raises ParseError where there is none."""
        if not isinstance(self.at(path).value, list):
            raise ParseError("not_an_answer", f"The platform's answer has no list “{path or 'at its top'}”.")
        return list(self.rows(path))
