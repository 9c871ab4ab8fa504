"""Put the terms of the blog's tables in the place of others, or make links of them."""

from collections.abc import Mapping
from typing import Literal, Self

from pydantic import Field

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.settings import LibraryKey
from glyptarch_core.shape.base import Draftable, Step, TextStepBase
from glyptarch_core.shape.replace import Replace, ReplaceIn, compile_replace
from glyptarch_core.trace import Json

__all__ = ["Table", "compile_table"]


class Table(TextStepBase):
    """Each line of the tables works as a replacement of its own, in the order of the table."""

    kind: Literal["table"] = "table"
    tables: tuple[LibraryKey, ...] = Field(min_length=1, max_length=20)
    where: ReplaceIn = ReplaceIn.BODY
    first: int | None = Field(default=1, ge=1, le=1000)

    @property
    def uses_tables(self) -> tuple[str, ...]:
        """Return the keys of the tables."""
        return self.tables

    def for_text(self) -> Self:
        """Return the step as it works on a text alone."""
        return self.model_copy(update={"where": ReplaceIn.BODY})


def compile_table(step: Table, context: BlogContext) -> Step:
    """Compile a replacement for each line of the tables that exist."""
    rows = [row for key in step.tables for row in context.tables.get(key, ())]
    each = [
        compile_replace(
            Replace(
                id=step.id, what=row.what, by=row.by or row.what, link=row.link, where=step.where, first=step.first
            ),
            context,
        )
        for row in rows
    ]

    def apply(parts: Draftable, captured: Captured) -> Mapping[str, Json]:
        done: list[Json] = []
        times = 0
        for replace in each:
            changed = replace(parts, captured)
            if changed:
                replaced, count = changed["replaced"], changed["times"]
                done.extend(replaced if isinstance(replaced, list) else [])
                times += count if isinstance(count, int) else 0
        return {"replaced": done[:12], "times": times} if done else {}

    return apply
