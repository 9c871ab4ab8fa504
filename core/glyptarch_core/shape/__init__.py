"""Shape: steps that clean the item, the lead picture, the excerpt, then the templates."""

from glyptarch_core.shape.drop_paragraphs import DropParagraphs
from glyptarch_core.shape.fields import CustomField
from glyptarch_core.shape.layouts import LAYOUTS, Layout
from glyptarch_core.shape.lead import LeadSettings
from glyptarch_core.shape.registry import ShapeStep
from glyptarch_core.shape.stage import ExcerptSettings, Shaped, ShapeSettings, compile_shape
from glyptarch_core.shape.templates import VARIABLES, compile_template
from glyptarch_core.shape.unfilled import ageing_variables, never_filled, unknown_variables
from glyptarch_core.shape.versions import Version, around_step

__all__ = [
    "LAYOUTS",
    "VARIABLES",
    "CustomField",
    "DropParagraphs",
    "ExcerptSettings",
    "Layout",
    "LeadSettings",
    "ShapeSettings",
    "ShapeStep",
    "Shaped",
    "Version",
    "ageing_variables",
    "around_step",
    "compile_shape",
    "compile_template",
    "never_filled",
    "unknown_variables",
]
