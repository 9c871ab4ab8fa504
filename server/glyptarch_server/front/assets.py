"""The built files of the public pages, found through Vite's manifest."""

import json
from functools import cache

from django.conf import settings

__all__ = ["script", "stylesheet"]


def stylesheet() -> str:
    """Return the address of the style sheet.

    Empty before the front end is built.
    """
    return _address_of("src/blog/blog.css")


def script() -> str:
    """Return the address of the script, by which readers choose colours and share.

    Empty before the front end is built.
    """
    return _address_of("src/blog/reading.ts")


@cache
def _address_of(entry: str) -> str:
    manifest = settings.WEB_MANIFEST
    if not manifest.is_file():
        return ""
    built = json.loads(manifest.read_text()).get(entry, {})
    return f"/{built['file']}" if "file" in built else ""
