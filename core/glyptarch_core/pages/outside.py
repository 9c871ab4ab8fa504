"""Parts of a page that are no article text: by their tags, by their names, or as boxes.

A name is a hint. It is weighed by how much of the page its element has.
"""

import re
from collections.abc import Mapping
from collections.abc import Set as AbstractSet
from dataclasses import dataclass

from lxml import etree
from lxml.html import HtmlElement

from glyptarch_core.pages.page import beginning_of
from glyptarch_core.text import is_hidden

__all__ = [
    "BODY_NAMES",
    "NEVER_TEXT",
    "Measures",
    "has_label",
    "is_box",
    "is_hinted",
    "is_never_text",
    "is_outside",
    "measured",
    "named",
]

NEVER_TEXT = frozenset(
    "script style noscript template iframe object embed form button input select textarea nav footer aside svg"
    " canvas dialog menu"
    " head link meta title".split()
)
_NOT_TEXT = re.compile(
    r"(?:^|[-_ ])(?:share|sharing|shares|social|related|recommend\w*|more-?(?:stories|articles|posts|news)"
    r"|read-?(?:more|next|also)"
    r"|newsletter|subscri\w+|sign-?up|promo\w*|advert\w*|ads?|sponsor\w*|banner|cookies?|consent|gdpr|comments?"
    r"|disqus|respond|replies"
    r"|sidebar|breadcrumbs?|pagination|pager|toolbar|menu|nav|navigation|footer|copyright|legal|tags|taglist"
    r"|tag-?list|topics"
    r"|author-?(?:box|bio|card|info)|about-?author|bio|byline|meta|metadata|post-?meta|entry-?meta|dateline|credits?"
    r"|popup|modal|overlay|hidden|sr-?only|visually-?hidden|screen-?reader\w*|print-?only|skip-?link|widget"
    r"|rating|feedback|outbrain"
    r"|teasers?|see-?also|next-?(?:post|article)|prev\w*-?(?:post|article)|jump|toc|table-?of-?contents|paywall"
    r"|pay-?wall|barrier"
    r"|follow|donat\w+|support-?us|login|reactions?|likes|poll|trending|popular|latest|most-?read)(?:$|[-_ ])",
    re.IGNORECASE,
)
BODY_NAMES = re.compile(
    r"(?:^|[-_ ])(?:article-?(?:body|text|content)|entry-?content|post-?(?:body|content|text)|story-?(?:body|text"
    r"|content)|body-?text"
    r"|article__(?:body|text|content)|content-?(?:body|text)|main-?(?:text|content)|articlebody|prose|copy"
    r"|text)(?:$|[-_ ])",
    re.IGNORECASE,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Measures:
    """Characters and links of each element, and the elements around the main heading."""

    root: HtmlElement
    characters: Mapping[HtmlElement, int]
    linked: Mapping[HtmlElement, int]
    links: Mapping[HtmlElement, int]
    headed: AbstractSet[HtmlElement]

    def is_large(self, element: HtmlElement) -> bool:
        """Whether an element has a large part of all text."""
        return self.characters[element] >= _LARGE * self.characters[self.root]


_UNSEEN = frozenset({"script", "style", "noscript", "template", "head", "svg", "math", "iframe", "object"})


def measured(root: HtmlElement) -> Measures:
    """Measure a tree in one walk. Spaces at the ends of a text do not count."""
    characters: dict[HtmlElement, int] = {}
    linked: dict[HtmlElement, int] = {}
    links: dict[HtmlElement, int] = {}
    # From the last element to the first, so that children come before their parents.
    for element in reversed(list(root.iter(etree.Element))):
        length = len((element.text or "").strip())
        for child in element:
            length += characters.get(child, 0) + len((child.tail or "").strip())
        is_link = element.tag == "a"
        characters[element] = 0 if element.tag in _UNSEEN else length
        linked[element] = characters[element] if is_link else sum(linked.get(child, 0) for child in element)
        links[element] = is_link + sum(links.get(child, 0) for child in element)
    headed = {ancestor for heading in root.iter("h1") for ancestor in heading.iterancestors()}
    return Measures(root=root, characters=characters, linked=linked, links=links, headed=headed)


def named(element: HtmlElement) -> str:
    """Return the classes and id of an element, which often name its purpose."""
    return f"{element.get('class') or ''} {element.get('id') or ''}".strip()


def is_outside(element: HtmlElement, measures: Measures | None = None) -> bool:
    """Whether an element, by its tag or name, contains no article text.

    ``measures`` as in :func:`is_hinted`.
    """
    return is_never_text(element) or is_hinted(element, measures)


def is_never_text(element: HtmlElement) -> bool:
    """Whether an element is hidden, or has no article text whatever it is named."""
    if (
        (element.tag in NEVER_TEXT and element.tag != "form")
        or is_hidden(element)
        or element.get("aria-hidden") == "true"
    ):
        return True
    if element.get("role") in {"navigation", "complementary", "contentinfo", "search", "dialog", "menu", "banner"}:
        return True
    return bool(_COMMENTS.search(named(element)))


def is_hinted(element: HtmlElement, measures: Measures | None = None) -> bool:
    """Whether the name of an element hints that it is no article text.

    A name says nothing about an element with the main heading, or with a large part of the text that is measured:
    “has-sidebar” and a form may stand around everything. Without ``measures`` the name alone counts.
    """
    name = _LABELS_OF_POSTS.sub(" ", named(element))
    if element.tag == "body" or not (
        element.tag == "form" or (name and _NOT_TEXT.search(name) and not BODY_NAMES.search(name))
    ):
        return False
    return measures is None or not (measures.is_large(element) or element in measures.headed)


_LARGE = 0.4
_COMMENTS = re.compile(r"(?:^|[ ])(?:comments?|comment-?list|disqus\w*|replies)(?:$|[ ])", re.IGNORECASE)
_LABELS_OF_POSTS = re.compile(
    r"(?:^|(?<=[ ]))(?:category|cat|tag|topic|term|type|format|status|node|has|with|no|is)-"
    r"(?!list|cloud|links|meta)\S*",
    re.IGNORECASE,
)
"""Names that say of what kind an article is, such as “category-legal” or “node-promoted”."""


_WORDS_OF_LABEL = 8
_LONGEST_LABEL = 60
"""Characters. A box has more text than that after its label."""


def is_box(element: HtmlElement) -> bool:
    """Whether an element has a heading of its own, or a name that says it is no article text."""
    return element.tag in {"div", "section", "article", "aside", "ul", "ol", "form", "nav"} and (
        has_label(element) or is_outside(element)
    )


def has_label(part: HtmlElement) -> bool:
    """Whether a part begins with a short line of its own, and has more text after it."""
    texts = (beginning_of(element, _LONGEST_LABEL) for element in part.iter(*_LABELS) if element is not part)
    label = next((text for text in texts if text), "")
    text = beginning_of(part, 3 * _LONGEST_LABEL)
    return (
        bool(label)
        and text.startswith(label)
        and len(label.split()) <= _WORDS_OF_LABEL
        and len(label) <= _LONGEST_LABEL
        and label[-1:] not in ".!?…。！？।؟"
        and len(text) > len(label) + _LONGEST_LABEL
    )


_LABELS = ("h2", "h3", "h4", "h5", "h6", "strong", "b", "div", "dt", "p", "span")
