"""Rows that people edit side by side.

Each counts its changes, and a save names the version that it began from.
"""

from typing import Annotated, TypeVar

from django.db import models
from pydantic import Field

from glyptarch_server.common.problems import Conflict

__all__ = ["Begun", "Versioned", "lock_version"]

Begun = Annotated[
    int | None,
    Field(
        ge=1,
        le=2**31 - 1,
        description="The version that the changes began from. Refused where somebody has changed it since. "
        "Without one, nothing is compared.",
    ),
]


class Versioned(models.Model):
    """A row that people edit. ``version`` counts their changes, not those of the program."""

    version = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True


_V = TypeVar("_V", bound=Versioned)


def lock_version(row: _V, begun: int | None, name: str) -> None:
    """Lock a row until the transaction ends, and give it its next version.

    The caller saves it. Raises Conflict where the changes began from an earlier version.
    """
    rows = type(row)._default_manager.select_for_update()  # noqa: SLF001 - every model has one
    current = rows.values_list("version", flat=True).get(pk=row.pk)
    if begun is not None and begun != current:
        raise Conflict(f"Somebody else has changed “{name}” since you began. Your changes were not saved.")
    row.version = current + 1
