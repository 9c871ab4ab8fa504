"""Copies on the blog in place of media at the source."""

from pydantic import Field

from glyptarch_core.settings import Settings

__all__ = ["CopySettings"]


class CopySettings(Settings):
    """Whether pictures, films and sound are copied.

    Files over ``most_mb`` megabytes stay remote. Only media of sources that allow full text are copied.
    """

    pictures: bool = False
    recordings: bool = False
    most_mb: int = Field(default=100, ge=1, le=2000)
