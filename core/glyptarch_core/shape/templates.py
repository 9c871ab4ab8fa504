"""Liquid templates, rendered with nothing in reach but the variables and with limits.

The body is rendered with HTML escaping, so that plain values cannot bring in markup; the title
and other plain texts without.
"""

import re
import threading
from collections.abc import Callable, Mapping, Sequence
from collections.abc import Set as AbstractSet
from datetime import datetime
from functools import lru_cache, wraps
from typing import Any

from dateutil import parser
from liquid import BoundTemplate, Environment
from liquid.exceptions import LiquidError, ResourceLimitError, TemplateNotFoundError
from markupsafe import Markup

from glyptarch_core.draft import FieldType, FieldValue
from glyptarch_core.errors import TemplateError
from glyptarch_core.item import Captured, Media, MediaOrigin
from glyptarch_core.shape.base import Draftable
from glyptarch_core.shape.offer_tag import OFFER_KEY, OfferTag, offer_key_of
from glyptarch_core.shape.rendering import QuickTemplate, add_quick_tags
from glyptarch_core.source_words import TemplateWords
from glyptarch_core.text import sanitise

__all__ = ["VARIABLES", "compile_template", "field_values", "names_in", "parses", "variables"]

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
    "language": "Language of the item (BCP 47)",
    "reworded": "Whether a step has reworded it: true or nothing",
    "translated": "Whether a step has translated it: true or nothing",
    "lead.url": "Address of the lead picture",
    "lead.alt": "What the lead picture shows",
    "film": "Address of the first film",
    "sound": "Address of the first sound",
    "source.title": "Name of the source",
    "source.link": "Site of the source",
    "facts.rating": "Rating the source states",
    "facts.views": "Views the source states",
    "facts.length": "Length in seconds",
    "facts.price": "Price the source states",
    "facts.licence": "Licence the source states",
}
"""Every variable a template can use, with what it holds; beside them ``facts.`` and ``fields.`` with a name."""

_MAX_SOURCE = 20_000
_ALONE = re.compile(r"\{\{ *(title|excerpt|link|author|language|published) *\}\}")


# Limits on the input and output of a filter, in characters or entries, and on all filters of one rendering. Work is
# counted instead of time, so that a proof and a run stop at the same point.
_LARGEST = 2_000_000
_MOST_WORK = 20_000_000
_WORK_OF_A_CALL = 200
_QUADRATIC = frozenset({"uniq", "compact"})
_AT_A_TIME = 10


class _Work(threading.local):
    """The work that a rendering may still do, per thread."""

    left: int = 0


_work = _Work()


_SIZED = (str, list, tuple, range, dict)


def _watched(name: str, wrapped: Callable[..., Any]) -> Callable[..., Any]:
    """Return a filter that is stopped before its result grows too large."""
    quadratic = name in _QUADRATIC

    @wraps(wrapped)
    def call(*values: Any, **named: Any) -> Any:  # noqa: ANN401 - whatever the template hands over
        # Replacing each piece multiplies sizes, so the two largest inputs bound the result.
        largest = second = 1
        for value in (*values, *named.values()) if named else values:
            if isinstance(value, _SIZED):
                size = len(value)
                if size > largest:
                    largest, second = size, largest
                elif size > second:
                    second = size
        left = _work.left - _WORK_OF_A_CALL - largest - second
        if quadratic:
            # The filter compares each entry with all earlier ones.
            left -= largest * largest // _AT_A_TIME
        _work.left = left
        if left < 0 or largest > _LARGEST or largest * second > _MOST_WORK:
            raise ResourceLimitError(f"the filter '{name}' has too much to do", token=None)
        try:
            return wrapped(*values, **named)
        except LiquidError:
            raise
        except Exception as error:
            # Liquid's filters raise arbitrary errors for unexpected values.
            raise LiquidError(f"the filter '{name}' can do nothing with this", token=None) from error

    return call


def _without_clock(date: Callable[..., Any]) -> Callable[..., Any]:
    """Return the date filter without values from the clock: today, and parts missing in a text.

    A text is read against two days that have nothing in common. Where the answers differ, some part came from the day
    and not from the text.
    """

    @wraps(date)
    def call(value: Any, *values: Any, **named: Any) -> Any:  # noqa: ANN401 - whatever the template hands over
        if isinstance(value, str) and not _UNIX.fullmatch(value.strip()):
            first, other = (_read_date(value, against) for against in _AGAINST)
            if value.strip().lower() in {"now", "today"} or first != other:
                message = f"“{value}” names no whole date: a template knows the time of the item only"
                raise LiquidError(message, token=None)
            value = first or value
        return date(value, *values, **named)

    return call


_UNIX = re.compile(r"-?\d{5,}")
_AGAINST = (datetime(2001, 1, 1), datetime(2006, 7, 18))  # noqa: DTZ001 - only what the text does not name comes from it


def _read_date(text: str, against: datetime) -> datetime | None:
    try:
        read: datetime = parser.parse(text, default=against)
    except (ValueError, OverflowError):
        return None
    return read


class _Limited(Environment):
    template_class = QuickTemplate
    loop_iteration_limit = 2_000
    output_stream_limit = _LARGEST
    local_namespace_limit = 200_000
    context_depth_limit = 10

    def setup_tags_and_filters(self, *, extra: bool = False) -> None:
        """Register what the language has, each filter watched."""
        super().setup_tags_and_filters(extra=extra)
        add_quick_tags(self)
        self.filters["date"] = _without_clock(self.filters["date"])
        for name, wrapped in list(self.filters.items()):
            self.filters[name] = _watched(name, wrapped)


# A parsed template can take a megabyte.
_MOST_PARSED = 64

_HTML = _Limited(autoescape=True)
_PLAIN = _Limited(autoescape=False)
_HTML.add_tag(OfferTag)


def _fault(error: LiquidError) -> TemplateError:
    context = error.context()
    message = str(error.args[0] if error.args else error)
    if isinstance(error, TemplateNotFoundError):
        message = f"there is no template “{message}” to take in: a template stands for itself"
    return TemplateError(message, line=context[0], column=context[1] + 1) if context else TemplateError(message)


@lru_cache(maxsize=_MOST_PARSED)
def _parsed(source: str, *, html: bool) -> BoundTemplate:
    if len(source) > _MAX_SOURCE:
        raise TemplateError(f"a template may have {_MAX_SOURCE} characters, this one has {len(source)}")
    environment = _HTML if html else _PLAIN
    try:
        template = environment.from_string(source)
        filters = template.analyze().filters
    except LiquidError as error:
        raise _fault(error) from error
    except Exception as error:
        raise TemplateError("this cannot be read as a template: it is nested too deep, or odd") from error
    # Liquid looks filters up only on use, which may be for one item in a hundred.
    for name, spans in filters.items():
        if name not in environment.filters:
            before = source[: spans[0].index]
            line, column = before.count("\n") + 1, len(before) - before.rfind("\n")
            raise TemplateError(f"unknown filter '{name}'", line=line, column=column)
    return template


def compile_template(source: str, *, html: bool) -> Callable[[Mapping[str, Any]], str]:
    """Parse a template once. Raises TemplateError, as does the function it gives back."""
    template = _parsed(source, html=html)
    alone = None if html else _ALONE.fullmatch(source)
    if alone is not None:
        # Most templates are a single variable, which needs no rendering.
        name = alone.group(1)
        return lambda values: str(values[name])

    def render(values: Mapping[str, Any]) -> str:
        _work.left = _MOST_WORK
        try:
            return template.render(**values)
        except TemplateError:
            raise
        except LiquidError as error:
            raise _fault(error) from error
        except Exception as error:
            # Liquid's tags raise arbitrary errors for bad values: ``limit: -1``, ``cols: "x"``.
            raise TemplateError(f"this cannot be worked out: {error}") from error

    return render


@lru_cache(maxsize=_MOST_PARSED)
def names_in(source: str) -> frozenset[str]:
    """Return the variables that a template uses, with one part after the dot: ``lead.url``."""
    names = _parsed(source, html=True).analyze().globals
    paths = [variable.segments for variables in names.values() for variable in variables]
    return frozenset(".".join(str(part) for part in path[:2] if isinstance(part, str)) for path in paths)


class _Parts(dict[str, Any]):
    """A variable with parts, which has no text of its own."""

    def __init__(self, name: str, parts: Mapping[str, Any]) -> None:
        super().__init__(parts)
        self._name = name

    def __str__(self) -> str:
        """Raise TemplateError, which says what to write."""
        part = f"{self._name}.{next(iter(self), 'name')}"
        raise TemplateError(
            f"“{self._name}” has several values and no text of its own. Write one of them, such as {{{{ {part} }}}}"
        )


def _first_of(captured: Captured, kind: str) -> str:
    return next((medium.url for medium in captured.item.media if medium.kind.value == kind), "")


def variables(
    captured: Captured, parts: Draftable, used: AbstractSet[str], *, excerpt: str, lead: Media | None
) -> dict[str, Any]:
    """Return the variables of templates for an item, as far as its source allows them.

    ``used`` are those that the templates name. ``fields`` are empty until computed.
    """
    item = captured.item
    values: dict[str, Any] = {
        "title": parts.title,
        # Otherwise an unclosed element of the source would contain everything that the template puts after it.
        "body": Markup(sanitise(parts.body)),  # noqa: S704 - sanitised
        "excerpt": excerpt,
        "link": item.link,
        "author": item.authors[0] if item.authors else "",
        "authors": list(item.authors),
        "categories": list(item.categories),
        "published": captured.dated.isoformat(),
        "words": captured.features.words,
        "language": captured.language,
        "reworded": parts.reworded or None,
        "translated": parts.translated or None,
        "lead": _Parts("lead", {"url": lead.url, "alt": lead.alt}) if lead else None,
        "film": _first_of(captured, "film"),
        "sound": _first_of(captured, "sound"),
        "source": _Parts("source", {"title": captured.source.title, "link": captured.source.link}),
        "facts": _Parts("facts", {name: _written(name, value) for name, value in item.facts.items()}),
        "fields": _Parts("fields", {}),
        OFFER_KEY: offer_key_of(captured),
    }
    if parts.words is not None:
        _withhold(values, parts.words, used, own_lead=lead is not None and lead.origin is MediaOrigin.BLOG)
    return values


def _withhold(values: dict[str, Any], words: TemplateWords, used: AbstractSet[str], *, own_lead: bool) -> None:
    """Reduce variables to what the source allows.

    Those that no template names cost nothing and are empty. What the blog says of its own picture is nobody else's.
    """
    values["title"] = words.title(values["title"])
    values["authors"] = words.names(values["authors"])
    values["author"] = values["authors"][0] if values["authors"] else ""
    values["excerpt"] = words.text(values["excerpt"]) if "excerpt" in used else ""
    values["body"] = Markup(words.body(str(values["body"])) if "body" in used else "")  # noqa: S704 - sanitised before
    categories = map(words.stated, values["categories"]) if "categories" in used else ()
    values["categories"] = [name for name in categories if name]
    if values["lead"] and not own_lead:
        described = not used.isdisjoint({"lead", "lead.alt"})
        alt = words.stated(values["lead"]["alt"]) if described else ""
        values["lead"] = _Parts("lead", {**values["lead"], "alt": alt})
    facts = {name: fact for name, fact in values["facts"].items() if not used.isdisjoint({"facts", f"facts.{name}"})}
    stated = {name: words.stated(fact) if isinstance(fact, str) else fact for name, fact in facts.items()}
    values["facts"] = _Parts("facts", stated)


class _Price(float):
    """A number that is written as prices are: 289 or 18.50.

    It has more places only where it needs them.
    """

    __slots__ = ()

    def __str__(self) -> str:
        """Return the price as it is written."""
        return f"{self:.2f}" if self == round(self, 2) else repr(float(self))


def _written(name: str, value: str | float) -> str | float:
    """Return a fact as a template writes it.

    A whole number has no fraction, and a price has two places.
    """
    if not isinstance(value, float):
        return value
    if value.is_integer():
        return int(value)
    return _Price(value) if name == "price" else value


def field_values(fields: Sequence[FieldValue]) -> dict[str, str | float | bool]:
    """Return the custom fields as template variables."""
    return _Parts("fields", {field.name: _field(field) for field in fields})


def _field(field: FieldValue) -> str | float | bool:
    # Rich text was sanitised when it was made; all other fields are escaped.
    return Markup(field.value) if field.type is FieldType.RICH_TEXT else field.value  # noqa: S704


def parses(source: str, *, html: bool) -> str:
    """Return a template, validated for a field of a document.

    Raises ValueError with line and column.
    """
    try:
        compile_template(source, html=html)
    except TemplateError as fault:
        where = f"line {fault.line}, column {fault.column}: " if fault.line else ""
        raise ValueError(f"{where}{fault}") from fault
    return source
