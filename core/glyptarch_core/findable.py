"""What a post lacks to be found by search engines and to look well where it is shared.

The bounds are those that search engines and the Open Graph protocol state or show; none of them is a rule of the web.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from lxml import html as lxml_html

from glyptarch_core.text import count_words, plain_text
from glyptarch_core.text.markup import fragment

__all__ = ["Findable", "Lack", "Lacking", "lacks"]


class Lack(StrEnum):
    """The kinds of what a post can lack."""

    NOT_PUBLIC = "not_public"
    ORIGINAL_ELSEWHERE = "original_elsewhere"
    TITLE_LONG = "title_long"
    NO_DESCRIPTION = "no_description"
    DESCRIPTION_SHORT = "description_short"
    DESCRIPTION_LONG = "description_long"
    DESCRIPTION_IS_TITLE = "description_is_title"
    NO_PICTURE = "no_picture"
    PICTURE_SMALL = "picture_small"
    NO_ALT = "no_alt"
    PICTURES_WITHOUT_ALT = "pictures_without_alt"
    TEXT_SHORT = "text_short"


@dataclass(frozen=True, slots=True)
class Lacking:
    """One thing that a post lacks, with the numbers of its sentence."""

    lack: Lack
    data: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Findable:
    """A post as search engines and programs that share it see it.

    ``width`` is 0 where it is not known.
    """

    title: str
    description: str
    body: str
    picture: str = ""
    width: int = 0
    alt: str = ""
    public: bool = True
    original: str = ""


# A result shows about so many characters of a title and of a description.
_LONGEST_TITLE = 60
_SHORTEST_DESCRIPTION, _LONGEST_DESCRIPTION = 50, 160
# In pixels: below, programs that share a page show a small picture beside its title (Open Graph).
_LEAST_WIDTH = 600
_FEWEST_WORDS = 50


def lacks(post: Findable) -> list[Lacking]:
    """Return what a post lacks, what matters most first."""
    found = [
        *_reach(post),
        *_title_and_description(post),
        *_picture(post),
    ]
    root = fragment(post.body)
    bare = sum(not (image.get("alt") or "").strip() for image in root.iter("img"))
    if bare:
        found.append(Lacking(Lack.PICTURES_WITHOUT_ALT, {"pictures": bare}))
    words = count_words(plain_text(lxml_html.tostring(root, encoding="unicode")))
    if words < _FEWEST_WORDS:
        found.append(Lacking(Lack.TEXT_SHORT, {"words": words, "least": _FEWEST_WORDS}))
    return found


def _reach(post: Findable) -> list[Lacking]:
    if not post.public:
        return [Lacking(Lack.NOT_PUBLIC)]
    return [Lacking(Lack.ORIGINAL_ELSEWHERE)] if post.original else []


def _title_and_description(post: Findable) -> list[Lacking]:
    found: list[Lacking] = []
    title, description = " ".join(post.title.split()), " ".join(post.description.split())
    if len(title) > _LONGEST_TITLE:
        found.append(Lacking(Lack.TITLE_LONG, {"characters": len(title), "most": _LONGEST_TITLE}))
    length = len(description)
    if not length:
        found.append(Lacking(Lack.NO_DESCRIPTION))
    elif description.casefold() == title.casefold():
        found.append(Lacking(Lack.DESCRIPTION_IS_TITLE))
    elif length < _SHORTEST_DESCRIPTION:
        found.append(Lacking(Lack.DESCRIPTION_SHORT, {"characters": length, "least": _SHORTEST_DESCRIPTION}))
    elif length > _LONGEST_DESCRIPTION:
        found.append(Lacking(Lack.DESCRIPTION_LONG, {"characters": length, "most": _LONGEST_DESCRIPTION}))
    return found


def _picture(post: Findable) -> list[Lacking]:
    if not post.picture:
        return [Lacking(Lack.NO_PICTURE)]
    found: list[Lacking] = []
    if 0 < post.width < _LEAST_WIDTH:
        found.append(Lacking(Lack.PICTURE_SMALL, {"width": post.width, "least": _LEAST_WIDTH}))
    if not post.alt.strip():
        found.append(Lacking(Lack.NO_ALT))
    return found
