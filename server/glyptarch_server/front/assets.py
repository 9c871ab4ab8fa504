"""The built style sheet of the public pages, found through Vite's manifest."""

import json
from functools import cache

from django.conf import settings

__all__ = ["stylesheet"]

_ENTRY = "src/blog/blog.css"


@cache
def stylesheet() -> str:
    """Return the address of the style sheet.

    Empty before the front end is built.
    """
    manifest = settings.WEB_MANIFEST
    if not manifest.is_file():
        return ""
    entry = json.loads(manifest.read_text()).get(_ENTRY, {})
    return f"/{entry['file']}" if "file" in entry else ""
