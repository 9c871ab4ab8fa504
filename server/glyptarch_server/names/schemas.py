"""API schemas of categories, tags and bylines."""

from typing import Annotated

from ninja import Schema
from pydantic import Field, StringConstraints

from glyptarch_server.common.out import Out

__all__ = ["MergeIn", "NameIn", "NameOut", "NamePageOut", "ParentIn"]


class NameOut(Out):
    """A category, tag or byline with its number of posts. ``parent`` is the category above it."""

    id: int
    name: str
    slug: str
    posts: int
    parent: int | None = None


class NamePageOut(Out):
    """A page of names."""

    rows: list[NameOut]
    total: int


class NameIn(Schema):
    """A name."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]


class MergeIn(Schema):
    """The row to merge into."""

    into: int = Field(ge=1)


class ParentIn(Schema):
    """The category to move below.

    None for the top.
    """

    parent: int | None = Field(ge=1)
