"""Request headers that a person may set."""

import re

__all__ = ["may_be_set"]

_NAME = re.compile(r"[!#$%&'*+.^_`|~0-9A-Za-z-]{1,100}\Z")
_NOT_OURS = frozenset(
    "host content-length transfer-encoding connection upgrade te trailer cookie2 expect proxy-authorization "
    "if-none-match if-modified-since accept-encoding".split()
)


def may_be_set(name: str) -> bool:
    """Whether a name is a field name (RFC 9110, 5.1) that the fetcher does not set itself."""
    return bool(_NAME.match(name)) and name.lower() not in _NOT_OURS
