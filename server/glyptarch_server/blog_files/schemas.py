"""API schemas of files of a blog."""

from typing import Any

from ninja import Schema
from pydantic import Field

from glyptarch_server.blog_files.document import LONGEST, PartKind
from glyptarch_server.blog_files.queries import PartState
from glyptarch_server.common.out import Out

__all__ = ["BlogFileIn", "BringFileIn", "BroughtInOut", "ComparedOut", "ComparisonOut", "FilePartIn"]


class BlogFileIn(Schema):
    """A file of a blog, as YAML."""

    yaml: str = Field(min_length=1, max_length=LONGEST)


class FilePartIn(Schema):
    """A part of a file that is to be brought in, by its key there."""

    kind: PartKind
    key: str = Field(max_length=100)


class BringFileIn(BlogFileIn):
    """A file with the parts to bring in.

    ``stamp`` is that of the comparison in which they were chosen.
    """

    chosen: list[FilePartIn] = Field(min_length=1, max_length=50_000)
    stamp: str = Field(max_length=64)


class BroughtInOut(Out):
    """How many parts were new or changed."""

    brought_in: int


class ComparedOut(Out):
    """A part of a file beside that of the blog. ``before`` and ``after`` where it is changed."""

    kind: PartKind
    key: str
    name: str
    state: PartState
    fault: str
    before: dict[str, Any] | None
    after: dict[str, Any] | None


class ComparisonOut(Out):
    """What a file would change in a blog."""

    stamp: str
    parts: list[ComparedOut]
