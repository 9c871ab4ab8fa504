"""Liquid templates, rendered with nothing in reach but the variables and with limits.

The body is rendered with HTML escaping, so that plain values cannot bring in markup; the title
and other plain texts without.
"""

from collections.abc import Callable, Mapping
from functools import lru_cache
from typing import Any

from liquid import Environment
from liquid.exceptions import LiquidError
from markupsafe import Markup

from glyptarch_core.errors import TemplateError
from glyptarch_core.item import Captured, Media
from glyptarch_core.shape.base import Draftable

__all__ = ["VARIABLES", "compile_template", "parses", "variables"]

VARIABLES: Mapping[str, str] = {
    "title": "Title, after the steps",
    "body": "Body as HTML, after the steps",
    "excerpt": "Excerpt as plain text",
    "link": "Address of the original",
    "author": "First author",
    "authors": "All authors",
    "categories": "Categories given by the source",
    "published": "When the source published it (ISO 8601)",
    "words": "Number of words",
    "lead.url": "Address of the lead picture",
    "lead.alt": "What the lead picture shows",
    "source.title": "Name of the source",
    "source.link": "Site of the source",
}
"""Every variable a template can use, with what it holds."""

_MAX_SOURCE = 20_000


class _Limited(Environment):
    loop_iteration_limit = 2_000
    output_stream_limit = 2_000_000
    local_namespace_limit = 200_000
    context_depth_limit = 10


_HTML = _Limited(autoescape=True)
_PLAIN = _Limited(autoescape=False)


def _fault(error: LiquidError) -> TemplateError:
    context = error.context()
    return TemplateError(str(error.args[0] if error.args else error), line=context[0] if context else None)


@lru_cache(maxsize=512)
def compile_template(source: str, *, html: bool) -> Callable[[Mapping[str, Any]], str]:
    """Parse a template once. Raises TemplateError, as does the function it gives back."""
    if len(source) > _MAX_SOURCE:
        raise TemplateError(f"a template may have {_MAX_SOURCE} characters, this one has {len(source)}")
    try:
        template = (_HTML if html else _PLAIN).from_string(source)
    except LiquidError as error:
        raise _fault(error) from error

    def render(values: Mapping[str, Any]) -> str:
        try:
            return template.render(**values)
        except LiquidError as error:
            raise _fault(error) from error

    return render


def variables(captured: Captured, parts: Draftable, *, excerpt: str, lead: Media | None) -> dict[str, Any]:
    """Give a template what it may know of an item."""
    item = captured.item
    return {
        "title": parts.title,
        "body": Markup(parts.body),  # noqa: S704 - sanitised after rendering, with everything else
        "excerpt": excerpt,
        "link": item.link,
        "author": item.authors[0] if item.authors else "",
        "authors": list(item.authors),
        "categories": list(item.categories),
        "published": captured.dated.isoformat(),
        "words": captured.features.words,
        "lead": {"url": lead.url, "alt": lead.alt} if lead else None,
        "source": {"title": captured.source.title, "link": captured.source.link},
    }


def parses(source: str, *, html: bool) -> str:
    """Give a template back, for a field of a document. Raises ValueError that names the line at fault."""
    try:
        compile_template(source, html=html)
    except TemplateError as fault:
        where = f"line {fault.line}: " if fault.line else ""
        raise ValueError(f"{where}{fault}") from fault
    return source
