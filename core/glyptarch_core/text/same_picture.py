"""Whether two addresses show the same picture, in one size or another."""

import re
from urllib.parse import parse_qsl, urlsplit

from glyptarch_core.text.links import host_of
from glyptarch_core.text.markup import fragment

__all__ = ["picture_key", "shows_picture"]

# Size suffixes of publishing systems: photo-300x200.jpg, photo@2x.jpg, photo-scaled.jpg.
_SIZE = re.compile(r"(?:[-_]\d{2,5}x\d{2,5}|@\dx|-scaled)$", re.IGNORECASE)
_LONGEST_SIZE = 16
# A name can have two of them: photo-scaled-300x200.jpg.
_MOST_SIZES = 3
_ENDING = re.compile(r"\.\w{3,4}$")
# Parameters of picture servers for size and quality.
_SIZE_PARAMETERS = frozenset("w h width height resize fit crop quality q dpr format fm auto zoom strip ssl".split())


def picture_key(url: str) -> tuple[str, str, tuple[tuple[str, str], ...]]:
    """Return the parts of a picture's address that are the same in all its sizes.

    The scheme, ``www.``, a size in the name, and parameters of size and quality are ignored.
    """
    try:
        parts = urlsplit(url.strip())
    except ValueError:
        return "", url, ()
    choosing = sorted(pair for pair in parse_qsl(parts.query) if pair[0].lower() not in _SIZE_PARAMETERS)
    return host_of(url), _without_size(parts.path), tuple(choosing)


def _without_size(path: str) -> str:
    ending = _ENDING.search(path[-_LONGEST_SIZE:])
    if ending is None:
        return path
    stem = path[: -len(ending.group())]
    for _ in range(_MOST_SIZES):
        size = _SIZE.search(stem[-_LONGEST_SIZE:])
        if size is None:
            break
        stem = stem[: -len(size.group())]
    return stem + ending.group()


def shows_picture(markup: str, url: str) -> bool:
    """Whether a fragment shows a picture in any size."""
    if "<img" not in markup:
        return False
    key = picture_key(url)
    return any(picture_key(image.get("src", "")) == key for image in fragment(markup).iter("img"))
