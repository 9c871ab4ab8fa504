"""An item's title and body before and after one step."""

from dataclasses import dataclass

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.shape.base import Draftable
from glyptarch_core.shape.registry import COMPILERS
from glyptarch_core.shape.stage import ShapeSettings, begun
from glyptarch_core.text import plain_text, sanitise

__all__ = ["Version", "around_step"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Version:
    """Title and body between two steps: ``html`` is sanitised, ``text`` is the visible text."""

    title: str
    html: str
    text: str


def around_step(
    settings: ShapeSettings, context: BlogContext, captured: Captured, body: str, step: str
) -> tuple[Version, Version]:
    """Return an item before and after the step with an id.

    ``body`` is the HTML that the steps start from. Raises LookupError where no active step has this id.
    """
    parts = begun(captured, body)
    for step_ in settings.steps:
        if not step_.on:
            continue
        before = _version(parts) if step_.id == step else None
        COMPILERS[type(step_)](step_, context)(parts, captured)
        if before is not None:
            return before, _version(parts)
    raise LookupError(step)


def _version(parts: Draftable) -> Version:
    html = sanitise(parts.body)
    return Version(title=parts.title, html=html, text=plain_text(html))
