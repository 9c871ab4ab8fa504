"""The built front end, as it is served."""

from typing import ClassVar

from servestatic.middleware import ServeStaticMiddleware

__all__ = ["BuiltFiles"]


class BuiltFiles(ServeStaticMiddleware):  # type: ignore[misc]
    """Serves built files; those whose names hold a hash of their contents may be kept for a year.

    The library's own test knows the names that Django gives, not those of Vite.
    """

    hashed: ClassVar[str] = "/assets/"

    def immutable_file_test(self, path: str, url: str) -> bool:
        """Tell whether a file of this name never changes."""
        del path
        return url.startswith(self.hashed)
