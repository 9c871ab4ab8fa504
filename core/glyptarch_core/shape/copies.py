"""What a post shows from copies of the blog's own, and not from where its source keeps it."""

from pydantic import Field

from glyptarch_core.settings import Settings

__all__ = ["CopySettings"]


class CopySettings(Settings):
    """Whether pictures, and films and sound, are copied; one of more than ``most_mb`` megabytes stays where it is.

    Only what comes from a source that allows full text is copied.
    """

    pictures: bool = False
    recordings: bool = False
    most_mb: int = Field(default=100, ge=1, le=2000)
