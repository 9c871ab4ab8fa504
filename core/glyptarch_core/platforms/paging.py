"""Paging by the ``Link`` header (RFC 8288)."""

import re

from glyptarch_core.readers.model import resolve

__all__ = ["next_link"]

_LINK = re.compile(r"<([^<>]{1,2000})>((?:\s*;\s*[\w*-]{1,40}\s*=\s*(?:\"[^\"]{0,400}\"|[^\s;,\"]{1,400})){0,20})")
_REL = re.compile(r"\brel\s*=\s*(?:\"([^\"]*)\"|([^\s;,\"]+))", re.IGNORECASE)


def next_link(header: str, base: str) -> str:
    """Return the absolute address that a ``Link`` header names as next.

    Empty for none.
    """
    for address, attributes in _LINK.findall(header[:8000]):
        rel = _REL.search(attributes)
        if rel and "next" in (rel[1] or rel[2] or "").lower().split():
            return resolve(base, address)
    return ""
