"""An item's title and body before and after one step."""

from collections.abc import Sequence
from dataclasses import dataclass

from glyptarch_core.item import Captured
from glyptarch_core.language_services import Ask, Texts
from glyptarch_core.ports import BlogContext
from glyptarch_core.shape.base import Draftable, TextStepBase
from glyptarch_core.shape.finishing import is_for_body
from glyptarch_core.shape.registry import COMPILERS
from glyptarch_core.shape.stage import ShapeSettings, begun, compile_shape
from glyptarch_core.text import plain_text, sanitise, text_to_html

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

    ``body`` is the HTML that the steps start from. A step that works on another text has that text. Raises
    LookupError where no active step has this id.
    """
    texts = Texts(context.texts)
    while True:
        versions, asks = _around(settings, context, captured, body, step, texts)
        # What a step asks may depend on what an earlier one got.
        if not asks or not texts.look_up(asks):
            return versions


def _around(
    settings: ShapeSettings, context: BlogContext, captured: Captured, body: str, step: str, texts: Texts
) -> tuple[tuple[Version, Version], Sequence[Ask]]:
    """Return the versions by the answers that are known, and what is not."""
    place = next((place for place, one in enumerate(settings.steps) if one.id == step and one.on), None)
    if place is None:
        raise LookupError(step)
    asked = settings.steps[place]
    if isinstance(asked, TextStepBase) and not is_for_body(asked):
        before_it, _ = _text_version(settings, context, captured, body, asked.of, place, texts)
        after_it, asks = _text_version(settings, context, captured, body, asked.of, place + 1, texts)
        return (before_it, after_it), asks
    parts = begun(captured, body, texts)
    for step_ in settings.steps:
        if not step_.on or not is_for_body(step_):
            continue
        before = _version(parts) if step_.id == step else None
        COMPILERS[type(step_)](step_, context)(parts, captured)
        if before is not None:
            return (before, _version(parts)), parts.asks
    raise LookupError(step)


def _text_version(
    settings: ShapeSettings, context: BlogContext, captured: Captured, body: str, part: str, steps: int, texts: Texts
) -> tuple[Version, Sequence[Ask]]:
    """Return a text of the post as the first so many steps leave it, and what they ask."""
    some = settings.model_copy(update={"steps": settings.steps[:steps]})
    shaped = compile_shape(some, context, texts)(captured, body)
    if part.startswith("fields."):
        text = next((str(field.value) for field in shaped.fields if f"fields.{field.name}" == part), "")
    else:
        text = str(getattr(shaped, part))
    return Version(title=shaped.title, html=text_to_html(text), text=text), shaped.asks


def _version(parts: Draftable) -> Version:
    html = sanitise(parts.body)
    return Version(title=parts.title, html=html, text=plain_text(html))
