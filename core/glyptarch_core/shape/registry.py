"""Every kind of Shape step: its settings class and the function that compiles it."""

from collections.abc import Callable, Mapping
from typing import Annotated, Any, TypeAlias

from pydantic import Field

from glyptarch_core.ports import BlogContext
from glyptarch_core.shape.base import ShapeStepBase, Step
from glyptarch_core.shape.cut import Cut, compile_cut
from glyptarch_core.shape.drop_paragraphs import DropParagraphs, compile_drop_paragraphs
from glyptarch_core.shape.links import Links, compile_links
from glyptarch_core.shape.pictures import Pictures, compile_pictures
from glyptarch_core.shape.replace import Replace, compile_replace
from glyptarch_core.shape.reword import Reword, compile_reword
from glyptarch_core.shape.select import Select, compile_select
from glyptarch_core.shape.services import Rewrite, Translate, compile_rewrite, compile_translate
from glyptarch_core.shape.shorten import Shorten, compile_shorten
from glyptarch_core.shape.standing import Standing, compile_standing
from glyptarch_core.shape.summarise import Summarise, compile_summarise
from glyptarch_core.shape.table import Table, compile_table
from glyptarch_core.shape.tidy import Tidy, compile_tidy

__all__ = ["COMPILERS", "ShapeStep"]

ShapeStep: TypeAlias = Annotated[
    DropParagraphs
    | Select
    | Cut
    | Links
    | Pictures
    | Shorten
    | Summarise
    | Replace
    | Table
    | Reword
    | Translate
    | Rewrite
    | Standing
    | Tidy,
    Field(discriminator="kind"),
]
"""The union of all steps, distinguished by ``kind``."""

COMPILERS: Mapping[type[ShapeStepBase], Callable[[Any, BlogContext], Step]] = {
    DropParagraphs: compile_drop_paragraphs,
    Select: compile_select,
    Cut: compile_cut,
    Links: compile_links,
    Pictures: compile_pictures,
    Shorten: compile_shorten,
    Summarise: compile_summarise,
    Replace: compile_replace,
    Table: compile_table,
    Reword: compile_reword,
    Translate: compile_translate,
    Rewrite: compile_rewrite,
    Standing: compile_standing,
    Tidy: compile_tidy,
}
