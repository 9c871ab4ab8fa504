"""Serving the built front end."""

from typing import ClassVar

from servestatic.middleware import ServeStaticMiddleware

__all__ = ["BuiltFiles"]


class BuiltFiles(ServeStaticMiddleware):  # type: ignore[misc]
    """Serves built files.

    Files with a hash in their name may be cached for a year. The library's own test knows Django's hashed names, not
    Vite's.
    """

    hashed: ClassVar[str] = "/assets/"

    def immutable_file_test(self, path: str, url: str) -> bool:
        """Whether a file of this name never changes."""
        del path
        return url.startswith(self.hashed)
