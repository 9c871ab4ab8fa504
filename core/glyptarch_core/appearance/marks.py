"""The marks by which readers know the sources of a blog."""

import hashlib
import re

__all__ = ["mark_of"]

# Dark enough for white letters on them.
_MARKS = ("#5b4c9a", "#b0532c", "#1f6d8a", "#766a10", "#8a2c5e", "#2c6a4f", "#43536e", "#6d3b2a")
_WORDS = re.compile(r"[^\W_]+")


def mark_of(name: str, key: str) -> tuple[str, str]:
    """Return the letters and the colour by which a source is known.

    The letters are the first of its first two words.
    """
    words = _WORDS.findall(name)[:2]
    letters = "".join(word[0] for word in words).upper() or "•"
    number = int.from_bytes(hashlib.blake2b(key.encode(), digest_size=2).digest())
    return letters, _MARKS[number % len(_MARKS)]
