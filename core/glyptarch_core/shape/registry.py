"""Every kind of Shape step: its settings class and the function that compiles it."""

from collections.abc import Callable, Mapping
from typing import Any, TypeAlias

from glyptarch_core.shape.base import ShapeStepBase, Step
from glyptarch_core.shape.drop_paragraphs import DropParagraphs, compile_drop_paragraphs

__all__ = ["COMPILERS", "ShapeStep"]

ShapeStep: TypeAlias = DropParagraphs
"""The union of all steps, told apart by ``kind``."""

COMPILERS: Mapping[type[ShapeStepBase], Callable[[Any], Step]] = {
    DropParagraphs: compile_drop_paragraphs,
}
