"""The one form of an address by which two links count as the same page."""

import re
from urllib.parse import SplitResult, parse_qsl, quote, urlencode, urlsplit

__all__ = ["canonical_link"]

_DEFAULT_PORTS = {"http": 80, "https": 443}
# Query parameters that tell how a visitor came, never which page is meant.
_TRACKING = re.compile(
    r"^(?:utm_\w+|mtm_\w+|pk_\w+|at_\w+|[a-z]{1,4}clid|mc_[ce]id|igshid|ref|ref_src|cmpid|spm)$", re.IGNORECASE
)
_HOST_VARIANT = re.compile(r"^(?:www\d?|m|mobile|amp)\.(?=[^.]+\.)")
_ESCAPE = re.compile(r"%([0-9a-fA-F]{2})")
_UNRESERVED = re.compile(r"[A-Za-z0-9._~-]")
_SAFE = "/:@!$&'()*+,;=~-._%"


def _host(parts: SplitResult) -> str:
    host = (parts.hostname or "").rstrip(".").lower()
    try:
        host = host.encode("idna").decode("ascii") if not host.isascii() else host
        port = parts.port
    except (UnicodeError, ValueError):
        port = None
    host = _HOST_VARIANT.sub("", host)
    return f"{host}:{port}" if port and port != _DEFAULT_PORTS.get(parts.scheme.lower()) else host


def _plain_escape(match: re.Match[str]) -> str:
    char = chr(int(match.group(1), 16))
    return char if _UNRESERVED.match(char) else match.group().upper()


def canonical_link(link: str) -> str:
    """Give the comparable form of an http(s) address; anything else comes back as it is.

    Follows the syntax-based normalisation of RFC 3986 (6.2.2, 6.2.3), and beyond it drops what
    is known not to choose the page: scheme, www and mobile hosts, tracking parameters, fragment,
    trailing slash, the order of parameters.
    """
    try:
        parts = urlsplit(link.strip())
    except ValueError:
        return link.strip()
    if parts.scheme.lower() not in _DEFAULT_PORTS or not parts.hostname:
        return link.strip()
    path = _ESCAPE.sub(_plain_escape, quote(parts.path, safe=_SAFE)).rstrip("/")
    pairs = sorted(pair for pair in parse_qsl(parts.query, keep_blank_values=True) if not _TRACKING.match(pair[0]))
    query = f"?{urlencode(pairs)}" if pairs else ""
    return f"{_host(parts)}{path}{query}"
