"""What one step makes of one item: its title and body before the step, and after it."""

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
    """Title and body on their way through the steps: ``html`` is sanitised, ``text`` is what a reader sees of it."""

    title: str
    html: str
    text: str


def around_step(
    settings: ShapeSettings, context: BlogContext, captured: Captured, body: str, step: str
) -> tuple[Version, Version]:
    """Give an item as it comes to a step, named by its id, and as it leaves it.

    ``body`` is the HTML that the steps start from. Raises LookupError where no step that is on
    has this id.
    """
    parts = begun(captured, body)
    for one in settings.steps:
        if not one.on:
            continue
        before = _version(parts) if one.id == step else None
        COMPILERS[type(one)](one, context)(parts, captured)
        if before is not None:
            return before, _version(parts)
    raise LookupError(step)


def _version(parts: Draftable) -> Version:
    html = sanitise(parts.body)
    return Version(title=parts.title, html=html, text=plain_text(html))
