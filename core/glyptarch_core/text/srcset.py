"""The ``srcset`` attribute (HTML, 4.8.4.2.1): addresses of one picture by width or density."""

import re
from collections.abc import Callable

__all__ = ["largest", "map_srcset"]

_LONGEST = 4000
_SIZE = re.compile(r"(\d+(?:\.\d+)?)[wx]\Z")
_SKIPPED = re.compile(r"[\s,]*")
_ADDRESS = re.compile(r"\S+")
# A descriptor ends at a comma outside brackets.
_DESCRIPTOR = re.compile(r"(?:[^,(]|\([^)]*\)?)*")


def _candidates(value: str) -> list[tuple[str, str]]:
    """Return the addresses with their descriptors.

    An address may contain commas but not end with one.
    """
    candidates: list[tuple[str, str]] = []
    position = 0
    while True:
        position = _end(_SKIPPED, value, position)
        match = _ADDRESS.match(value, position)
        if match is None:
            return candidates
        position, address = match.end(), match.group().rstrip(",")
        descriptor = ""
        if len(address) == len(match.group()):
            end = _end(_DESCRIPTOR, value, position)
            descriptor, position = " ".join(value[position:end].split()), end
        candidates.append((address, descriptor))


def _end(pattern: re.Pattern[str], text: str, position: int) -> int:
    match = pattern.match(text, position)
    return match.end() if match else position


def map_srcset(value: str, change: Callable[[str], str]) -> str:
    """Return a ``srcset`` with every address changed.

    Addresses that become empty are left out.
    """
    kept = [(change(address), descriptor) for address, descriptor in _candidates(value)]
    # Without a descriptor, a comma inside an address would end the candidate.
    return ", ".join(f"{address} {descriptor}".strip() for address, descriptor in kept if address)


def largest(value: str) -> str:
    """Return the address of the largest picture. Empty for none."""
    sized = [(_size(descriptor), address) for address, descriptor in _candidates(value[:_LONGEST])]
    return max(sized, key=lambda candidate: candidate[0])[1] if sized else ""


def _size(descriptor: str) -> float:
    """Return the width or density. A picture without one has density 1."""
    match = _SIZE.match(descriptor)
    return float(match[1]) if match else 1.0
