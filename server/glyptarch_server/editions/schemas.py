"""API schemas of editions and of the languages of a blog."""

from datetime import datetime
from typing import Annotated

from glyptarch_core.editions import LanguageDocument
from glyptarch_core.release import EditionMode
from glyptarch_core.settings import LanguageTag
from ninja import Schema
from pydantic import Field

from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.out import Out
from glyptarch_server.common.versions import Begun
from glyptarch_server.editions.lifecycle import EditionState
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.schemas import SelectionIn
from glyptarch_server.services.schemas import TextsCostOut

__all__ = [
    "BlockOut",
    "EditionFaultOut",
    "EditionIn",
    "EditionOut",
    "EditionTextsOut",
    "LanguageCountOut",
    "LanguagesIn",
    "LanguagesOut",
    "WantEditionsIn",
    "WantedOut",
]


class LanguagesIn(Schema):
    """The languages of a blog beside its usual one."""

    document: LanguageDocument
    begun: Begun = None


class LanguageCountOut(Out):
    """How many editions a language has, in each state."""

    language: str
    name: str = Field(description="The name of the language in English.")
    editions: dict[EditionState, int]


class LanguagesOut(Out):
    """The languages of a blog, and how many editions they have."""

    version: int
    usual: str
    document: LanguageDocument
    counts: list[LanguageCountOut]


class WantEditionsIn(SelectionIn):
    """Posts that are to have an edition in a language of the blog."""

    language: LanguageTag
    mode: EditionMode = EditionMode.HOLD
    go: bool = Field(default=True, description="Without it, only the number and the cost are said.")


class WantedOut(Out):
    """How many editions are wanted, and what their texts cost at most."""

    posts: int
    characters: int
    costs: list[TextsCostOut]


class EditionIn(Schema):
    """An edition of one post."""

    language: LanguageTag
    mode: EditionMode = EditionMode.HOLD


class EditionFaultOut(Out):
    """A block that no service could say, with the fault of the last answer."""

    fault: str
    text: str


class EditionOut(Out):
    """A language of the blog, and the edition of a post in it.

    ``behind`` is the number of its blocks that the original has otherwise now; ``costs`` is what they cost to say.
    """

    language: str
    name: str
    may: bool = Field(description="Whether the post may have an edition in this language.")
    state: EditionState | None
    mode: EditionMode | None
    post: RowNumber | None
    title: str
    post_state: PostState | None
    edited: bool
    made_at: datetime | None
    blocks: int
    behind: int
    faults: list[EditionFaultOut]
    costs: list[TextsCostOut]


class BlockOut(Out):
    """A block of the original beside that of its edition.

    ``changed`` says that the original was otherwise when the edition was made. ``kept`` are the names, numbers and
    terms that both must have. ``after`` is empty where the edition has other blocks than the original.
    """

    part: Annotated[str, Field(description="title, excerpt, description, lead_alt, field or body")]
    before: str
    after: str
    changed: bool
    fault: str
    kept: list[str]


class EditionTextsOut(Out):
    """The texts of an edition beside its original, block by block."""

    original: RowNumber
    post: RowNumber | None
    language: str
    direction: str
    side_by_side: bool = Field(description="Whether the blocks of both texts stand in the same order.")
    blocks: list[BlockOut]
    behind: int
    costs: list[TextsCostOut]
