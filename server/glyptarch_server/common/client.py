"""The address of the client, as far as it can be trusted."""

import ipaddress
from functools import lru_cache

from django.conf import settings
from django.http import HttpRequest

__all__ = ["client_of"]

_IPV6_NETWORK = 64


@lru_cache(maxsize=8)
def _networks(texts: tuple[str, ...]) -> tuple[ipaddress.IPv4Network | ipaddress.IPv6Network, ...]:
    return tuple(ipaddress.ip_network(text, strict=False) for text in texts)


def _address(text: str) -> ipaddress.IPv4Address | ipaddress.IPv6Address | None:
    try:
        address = ipaddress.ip_address(text.strip().strip("[]"))
    except ValueError:
        return None
    return address.ipv4_mapped or address if isinstance(address, ipaddress.IPv6Address) else address


def _is_trusted(address: ipaddress.IPv4Address | ipaddress.IPv6Address) -> bool:
    networks = _networks(tuple(settings.GLYPTARCH_TRUSTED_PROXIES))
    return any(address.version == network.version and address in network for network in networks)


def client_of(request: HttpRequest) -> str:
    """Return the client's address.

    For IPv6 its /64 network, which one subscriber has as a whole. ``X-Forwarded-For`` is used only where a configured
    proxy has added to it, and then only its last entry that is no such proxy: the client may have written the earlier
    ones.
    """
    address = _address(request.META.get("REMOTE_ADDR") or "")
    hops = request.META.get("HTTP_X_FORWARDED_FOR", "").split(",")
    while address is not None and hops and _is_trusted(address):
        before = _address(hops.pop())
        if before is None:
            break
        address = before
    if address is None:
        return "unknown"
    if isinstance(address, ipaddress.IPv6Address):
        return str(ipaddress.ip_network((address, _IPV6_NETWORK), strict=False))
    return str(address)
