"""The ``Link`` header (RFC 8288)."""

import re

from glyptarch_core.readers.model import resolve

__all__ = ["linked"]

_LINK = re.compile(r"<([^<>]{1,2000})>((?:\s*;\s*[\w*-]{1,40}\s*=\s*(?:\"[^\"]{0,400}\"|[^\s;,\"]{1,400})){0,20})")
_REL = re.compile(r"\brel\s*=\s*(?:\"([^\"]*)\"|([^\s;,\"]+))", re.IGNORECASE)


def linked(header: str, relation: str, base: str) -> str:
    """Return the absolute address that a ``Link`` header names for a relation.

    Empty for none.
    """
    for address, attributes in _LINK.findall(header[:16_000]):
        rel = _REL.search(attributes)
        if rel and relation in (rel[1] or rel[2] or "").lower().split():
            return resolve(base, address)
    return ""
