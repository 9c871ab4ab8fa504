"""What the API gives about blogs."""

from ninja import Schema

__all__ = ["BlogOut", "BlogSummaryOut"]


class BlogSummaryOut(Schema):
    """A blog as the switch in the top bar shows it."""

    slug: str
    title: str
    role: str


class BlogOut(Schema):
    """A blog with the names that editors choose from."""

    slug: str
    title: str
    tagline: str
    language: str
    categories: list[str]
    tags: list[str]
    bylines: list[str]
