"""The canonical form of an address, by which two links count as the same page.

Follows the syntax-based normalisation of RFC 3986 (6.2.2, 6.2.3) and drops parts known not to choose the page. Each
rule has a name in :data:`RULES`.
"""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from urllib.parse import parse_qsl, quote, urlencode, urlsplit, urlunsplit

import idna

__all__ = ["RULES", "Address", "canonical_link", "host_of", "without_tracking"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Address:
    """An http(s) address in its parts.

    ``query`` are decoded pairs.
    """

    scheme: str
    host: str
    port: int | None
    path: str
    query: tuple[tuple[str, str], ...]
    fragment: str

    def __str__(self) -> str:
        scheme = f"{self.scheme}://" if self.scheme else ""
        port = f":{self.port}" if self.port else ""
        query = f"?{urlencode(self.query, errors='surrogateescape')}" if self.query else ""
        fragment = f"#{self.fragment}" if self.fragment else ""
        # RFC 3986, 3.2.2: an IPv6 address is written in brackets.
        host = f"[{self.host}]" if ":" in self.host else self.host
        return f"{scheme}{host}{port}{self.path}{query}{fragment}"


_DEFAULT_PORTS = {"http": 80, "https": 443}
# Parameters that tell how a visitor came, never which page is meant.
_TRACKING = re.compile(
    r"^(?:utm_\w+|mtm_\w+|pk_\w+|at_\w+|[a-z]{1,4}clid|mc_[ce]id|igshid|ref|ref_src|cmpid|spm)$", re.IGNORECASE
)
_HOST_VARIANT = re.compile(r"^(?:www\d?|m|mobile|amp)\.(?=[^.]+\.)")
_PRINT_PATH = re.compile(r"(?<=[^/])/(?:print|printable|amp)/?$", re.IGNORECASE)
_INDEX = re.compile(r"/(?:index\.(?:html?|php)|default\.aspx?)$", re.IGNORECASE)
_PRINT_NAMES = frozenset({"print", "printable", "printer", "printview", "amp"})
_VIEW_NAMES = frozenset({"view", "format", "output", "display", "mode", "layout"})
_ESCAPE = re.compile(r"%([0-9a-fA-F]{2})")
_UNRESERVED = re.compile(r"[A-Za-z0-9._~-]")
_SAFE = "/:@!$&'()*+,;=~-._%"


def _host_form(address: Address) -> Address:
    host = address.host.rstrip(".").lower()
    try:
        # UTS 46 as in browsers: "ß" is a letter of its own.
        host = host if host.isascii() else idna.encode(host, uts46=True).decode("ascii")
    except (idna.IDNAError, UnicodeError):
        return replace(address, host=host)
    return replace(address, host=host)


def _default_port(address: Address) -> Address:
    return replace(address, port=None) if address.port == _DEFAULT_PORTS[address.scheme] else address


def _plain_escape(match: re.Match[str]) -> str:
    char = chr(int(match.group(1), 16))
    return char if _UNRESERVED.match(char) else match.group().upper()


def _is_print_view(name: str, value: str) -> bool:
    name, value = name.lower(), value.lower()
    return name in _PRINT_NAMES or (name in _VIEW_NAMES and value in _PRINT_NAMES)


def _print_variant(address: Address) -> Address:
    query = tuple(pair for pair in address.query if not _is_print_view(*pair))
    return replace(address, path=_PRINT_PATH.sub("", address.path), query=query)


def _without_dots(address: Address) -> Address:
    """Remove ``.`` and ``..`` (RFC 3986, 5.2.4), and empty segments, which servers ignore."""
    kept: list[str] = []
    segments = [segment for segment in address.path.split("/") if segment]
    for segment in segments:
        if segment == "..":
            del kept[-1:]
        elif segment != ".":
            kept.append(segment)
    end = "/" if address.path.endswith("/") or segments[-1:] in (["."], [".."]) else ""
    return replace(address, path=f"/{'/'.join(kept)}{end if kept else ''}")


def _route(address: Address) -> Address:
    """Keep a fragment that names a page (``#!/a``, ``#/post/1``).

    Drop one that names a place on it.
    """
    return address if address.fragment.startswith(("!", "/")) else replace(address, fragment="")


RULES: Mapping[str, Callable[[Address], Address]] = {
    "host form": _host_form,
    "default port": _default_port,
    "dot segments": _without_dots,
    "escapes": lambda address: replace(address, path=_ESCAPE.sub(_plain_escape, quote(address.path, safe=_SAFE))),
    "host variant": lambda address: replace(address, host=_HOST_VARIANT.sub("", address.host)),
    "tracking": lambda address: replace(
        address, query=tuple(pair for pair in address.query if not _TRACKING.match(pair[0]))
    ),
    "print variant": _print_variant,
    "index page": lambda address: replace(address, path=_INDEX.sub("/", address.path)),
    "trailing slash": lambda address: replace(address, path=address.path.rstrip("/")),
    "order of parameters": lambda address: replace(address, query=tuple(sorted(address.query))),
    "fragment": _route,
    "scheme": lambda address: replace(address, scheme=""),
}
"""What makes two addresses one, in the order in which it is done."""


def _read(link: str) -> Address | None:
    try:
        parts = urlsplit(link)
        port = parts.port
    except ValueError:
        port = None
        try:
            parts = urlsplit(link)
        except ValueError:
            return None
    scheme = parts.scheme.lower()
    if scheme not in _DEFAULT_PORTS or not parts.hostname:
        return None
    query = tuple(parse_qsl(parts.query, keep_blank_values=True, errors="surrogateescape"))
    return Address(scheme=scheme, host=parts.hostname, port=port, path=parts.path, query=query, fragment=parts.fragment)


def host_of(link: str) -> str:
    """Return the host of an address without ``www.``.

    Empty where there is none.
    """
    try:
        return (urlsplit(link.strip()).hostname or "").removeprefix("www.")
    except ValueError:
        return ""


def canonical_link(link: str) -> str:
    """Return the canonical form of an http(s) address.

    Anything else is returned unchanged.
    """
    address = _read(link.strip())
    if address is None:
        return link.strip()
    for rule in RULES.values():
        address = rule(address)
    return str(address)


def without_tracking(link: str) -> str:
    """Return an address without the parameters that tell how a visitor came, else unchanged."""
    try:
        parts = urlsplit(link.strip())
    except ValueError:
        return link.strip()
    # Each pair stays as it was written.
    kept = [pair for pair in parts.query.split("&") if not _TRACKING.match(pair.partition("=")[0])]
    return urlunsplit(parts._replace(query="&".join(kept)))
