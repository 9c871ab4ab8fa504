"""The addresses that may be connected to: public web ports, and an allow-list."""

import ipaddress
import socket
from typing import Any

__all__ = ["PortError", "PrivateAddressError", "guarded_socket", "may_connect"]

WEB_PORTS = frozenset({80, 443})

_Network = ipaddress.IPv4Network | ipaddress.IPv6Network
# Special-purpose in the IANA registries, but global for Python 3.11's ipaddress.
_SPECIAL: tuple[_Network, ...] = tuple(
    ipaddress.ip_network(network)
    for network in (
        "192.0.0.0/24",  # IETF protocol assignments (RFC 6890), with the dummy address 192.0.0.8
        "192.88.99.0/24",  # 6to4 relay anycast (RFC 7526)
        "::/96",  # IPv4-compatible (RFC 4291, 2.5.5.1)
        "64:ff9b:1::/48",  # local-use IPv4/IPv6 translation (RFC 8215)
        "fec0::/10",  # site-local (RFC 3879)
        "5f00::/16",  # segment routing (RFC 9602)
        "3fff::/20",  # documentation (RFC 9637)
    )
)
_NAT64 = ipaddress.ip_network("64:ff9b::/96")


class PrivateAddressError(OSError):
    """A connection to an address that is not on the public internet."""


class PortError(PrivateAddressError):
    """A connection to a port other than those of the web."""


def may_connect(address: str, port: int, allowed: frozenset[str], *, name: str = "") -> bool:
    """Whether a numeric address may be connected to on a port.

    ``allowed`` has exceptions as ``host:port``, where the host is a numeric address or the requested name.
    """
    return _is_allowed(address, port, allowed, name) or (port in WEB_PORTS and _is_public(address))


def _is_allowed(address: str, port: int, allowed: frozenset[str], name: str) -> bool:
    return f"{address}:{port}" in allowed or (bool(name) and f"{name.lower()}:{port}" in allowed)


def _is_public(address: str) -> bool:
    ip = ipaddress.ip_address(address.partition("%")[0])
    if isinstance(ip, ipaddress.IPv6Address):
        inner = ip.ipv4_mapped or ip.sixtofour or (ip.teredo[1] if ip.teredo else None)
        if inner is not None:
            ip = inner
        elif ip in _NAT64:
            ip = ipaddress.IPv4Address(int(ip) & 0xFFFFFFFF)
    special = any(ip.version == network.version and ip in network for network in _SPECIAL)
    return ip.is_global and not ip.is_multicast and not special


def guarded_socket(
    address: tuple[int, int, int, tuple[Any, ...]], allowed: frozenset[str], *, name: str
) -> socket.socket:
    """Return a socket for an allowed address: family, type, protocol, and numeric host and port."""
    family, kind, protocol, place = address
    host, port = str(place[0]), int(place[1])
    if not may_connect(host, port, allowed, name=name):
        if _is_public(host):
            raise PortError(f"port {port} is none of the web's")
        raise PrivateAddressError(f"{host} is not a public address")
    return socket.socket(family, kind, protocol)
