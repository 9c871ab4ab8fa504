"""Which addresses may be connected to: public ones, and those on an explicit list."""

import ipaddress
import socket
from collections.abc import Callable
from typing import Any

__all__ = ["PrivateAddressError", "guarded_sockets", "may_connect"]


class PrivateAddressError(OSError):
    """A connection to an address that is not on the public internet."""


def may_connect(address: str, port: int, allowed: frozenset[str]) -> bool:
    """Tell whether a numeric address may be connected to; ``allowed`` holds exceptions as ``host:port``."""
    if f"{address}:{port}" in allowed:
        return True
    ip = ipaddress.ip_address(address.partition("%")[0])
    if isinstance(ip, ipaddress.IPv6Address):
        inner = ip.ipv4_mapped or ip.sixtofour or (ip.teredo[1] if ip.teredo else None)
        if inner is not None:
            ip = inner
        elif ip in _NAT64:
            ip = ipaddress.IPv4Address(int(ip) & 0xFFFFFFFF)
    return ip.is_global and not ip.is_multicast


_NAT64 = ipaddress.ip_network("64:ff9b::/96")


def guarded_sockets(allowed: frozenset[str]) -> Callable[[Any], socket.socket]:
    """Give a socket factory for aiohttp that looks at the address really connected to.

    Names, redirects and numeric hosts all end here, so that no way around the check is left.
    """

    def make(info: Any) -> socket.socket:  # noqa: ANN401 - aiohttp's AddrInfoType
        family, kind, protocol, _name, address = info
        if not may_connect(str(address[0]), int(address[1]), allowed):
            raise PrivateAddressError(f"{address[0]} is not a public address")
        return socket.socket(family=family, type=kind, proto=protocol)

    return make
