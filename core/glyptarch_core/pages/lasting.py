"""How well a name in a page lasts: an id that somebody chose, or one that a tool made up for this build."""

import re
from collections.abc import Iterator
from functools import lru_cache

from lxml.html import HtmlElement

__all__ = ["NAMING_ATTRIBUTES", "Token", "classes_of", "is_made_up", "is_ordinary", "tokens_of"]

Token = tuple[str, float]
"""A piece of CSS that stands for an element, and its cost: the less, the longer it will hold."""

_PARTS = re.compile(r"[-_]+")
_HAS_DIGIT = re.compile(r"\d")
_CASES = re.compile(r"[a-z][A-Z]|[A-Z]{2}[a-z]")
_VOWELS = re.compile(r"[aeiouyAEIOUY]")
_TOOLS = re.compile(r"^(?:css|sc|jsx|emotion|svelte|data-v|ng|ember|react|v)-?[-\w]*\d|^_[\w-]+$", re.IGNORECASE)
_UTILITY = re.compile(
    r"[:/\[\]@!]|^-?(?:m|p|w|h|z|gap|top|left|right|bottom|inset|basis|order|col|row|grid|flex|text|font|leading"
    r"|tracking|bg"
    r"|border|rounded|shadow|opacity|items|justify|self|content|space|divide|max|min|overflow|object|line|float|d"
    r"|mx|my|mt|mb"
    r"|ml|mr|px|py|pt|pb|pl|pr|sm|md|lg|xl|xs|duration|transition|ease|cursor|whitespace|align|u|is|has)"
    r"(?:-[\w.]+)+$|^(?:flex|grid|block|inline|hidden|relative|absolute|static|sticky|fixed|container|row"
    r"|clearfix|truncate"
    r"|uppercase|italic|underline|antialiased|group|active|first|last|odd|even|selected|current)$"
)
_POST_NUMBER = re.compile(r"\d{2,}")
_TAG = re.compile(r"[a-z][a-z0-9-]*\Z")
_NAME = re.compile(r"-?[A-Za-z_][\w-]*\Z")
_LONGEST_NAME = 60
_LONGEST_ATTRIBUTE = 40
NAMING_ATTRIBUTES = (
    "itemprop",
    "role",
    "rel",
    "data-kind",
    "data-type",
    "data-role",
    "data-testid",
    "data-component",
    "property",
)

# What an element is by its tag, from telling to any.
_TAGS = {
    **dict.fromkeys(("article", "main", "time", "figure", "figcaption", "h1", "nav", "aside"), 1.4),
    **dict.fromkeys(("h2", "h3", "h4", "header", "footer", "section", "table", "tbody", "picture"), 1.8),
    **dict.fromkeys(("a", "img", "p", "ul", "ol", "li", "tr", "td", "dl", "dt", "dd", "blockquote"), 2.2),
    "div": 3.2,
    "span": 3.2,
}
_OTHER_TAG = 2.6


def is_made_up(name: str) -> bool:
    """Tell whether a class or id looks as a build tool makes them: ``css-1x2y3z``, ``sc-bdVaJa``, ``_3fKd9``."""
    if _TOOLS.search(name):
        return True
    for part in _PARTS.split(name):
        mixed = bool(_HAS_DIGIT.search(part.strip("0123456789"))) and len(part) > 3  # noqa: PLR2004 - "h2o" is a word
        cases = len(_CASES.findall(part)) > 1 and len(part) < 12  # noqa: PLR2004 - "articleListItem" is words
        mute = len(part) > 4 and not _VOWELS.search(part)  # noqa: PLR2004
        if mixed or cases or mute:
            return True
    return False


def classes_of(element: HtmlElement) -> tuple[str, ...]:
    """Give the classes of an element that can stand in a selector as they are."""
    return _classes(element.get("class") or "")


@lru_cache(maxsize=4096)
def _classes(value: str) -> tuple[str, ...]:
    names = value.split()
    return tuple(name for name in dict.fromkeys(names) if len(name) <= _LONGEST_NAME and _NAME.match(name))


def _class_cost(name: str) -> float:
    if is_made_up(name):
        return 14.0
    if _POST_NUMBER.search(name):
        return 12.0
    return 6.0 if _UTILITY.search(name) else 1.2


def is_ordinary(tag: str) -> bool:
    """Tell whether the name of an element can stand in a selector as it is."""
    return bool(_TAG.match(tag))


def tokens_of(element: HtmlElement) -> Iterator[Token]:
    """Give what stands for one element, each with its cost: id, classes, attributes that name a part, the bare tag."""
    tag = str(element.tag)
    if not is_ordinary(tag):
        # A slip of the pen such as “<a<b>” makes a name that no selector can speak of.
        return
    bare = _TAGS.get(tag, _OTHER_TAG)
    name = element.get("id") or ""
    if _NAME.match(name) and len(name) <= _LONGEST_NAME and not is_made_up(name) and not _POST_NUMBER.search(name):
        yield f"#{name}", 1.0
    for attribute in NAMING_ATTRIBUTES:
        value = element.get(attribute) or ""
        if _NAME.match(value) and len(value) <= _LONGEST_ATTRIBUTE and not _POST_NUMBER.search(value):
            yield f"{tag}[{attribute}={value}]", 1.1
    for one in classes_of(element):
        cost = _class_cost(one)
        yield f"{tag}.{one}", cost + bare * 0.1
    yield tag, bare
