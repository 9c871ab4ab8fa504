"""Growth of time with size: four times the size may take six times as long at most."""

import time
from collections.abc import Callable
from typing import Any

from glyptarch_core.campaign import load_document
from glyptarch_core.editions import summary
from glyptarch_core.errors import ParseError
from glyptarch_core.item import features_of
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import BlogContext, TableRow
from glyptarch_core.readers import discover_feeds, page_picture, read_feed
from glyptarch_core.shape import ShapeSettings, compile_shape
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import (
    Unit,
    absolute,
    canonical_link,
    cut,
    hashtags,
    number_in,
    plain_text,
    sanitise,
    sentences,
    slugify,
    title_key,
)
from glyptarch_core.text.quotations import quotations

__all__ = ["main"]

_SIZE = 50_000
_TIMES = 4
# Four times the work, with a margin for other load of the machine.
_AT_MOST = 6.0
# Shorter times are below the precision of the clock.
_SOON = 0.1
_STEPS = [
    {"id": "tidy", "kind": "tidy", "quotes": True},
    {"id": "pictures", "kind": "pictures", "smallest_width": 5, "box_width": 300, "describe": True},
    {"id": "shorten", "kind": "shorten", "unit": "words", "count": 50},
    {"id": "drop", "kind": "drop_paragraphs", "terms": ["posted on"]},
    {"id": "links", "kind": "links", "rel": ["nofollow"]},
]
_DOCUMENT = load_document({"gather": {"sources": ["club"]}, "shape": {"steps": _STEPS}})

Work = Callable[[Any], object]


def _read(body: str) -> None:
    try:
        read_feed(body.encode(), source="club", url="https://club.example/feed")
    except ParseError:
        return


def _read_entry(body: str) -> None:
    _read(f'<rss version="2.0"><channel><title>C</title><item><title>x</title>{body}</item></channel></rss>')


def _features(body: str) -> None:
    features_of(captured(body=body).item)


def _decide(body: str) -> None:
    decide([captured(body=body)], _DOCUMENT, memory=FakeMemory(), now=NOON)


_WORDS = BlogContext(
    language="en", tables={"own": (TableRow(what="big", by="large"), TableRow(what="fast", by="quick"))}
)
_REWORD = compile_shape(
    ShapeSettings.model_validate({"steps": [{"id": "r", "kind": "reword", "tables": ["own"], "percent": 100}]}), _WORDS
)


def _reword(body: str) -> None:
    _REWORD(captured(body=body), body)


def _summary(text: str) -> None:
    summary([text], unit=Unit.WORDS, count=100)


def _repeat(text: str, before: str = "", after: str = "") -> Callable[[int], str]:
    return lambda size: f"{before}{text * (size // len(text))}{after}"


def _nested(name: str) -> Callable[[int], str]:
    return lambda size: f"<{name}>" * (size // 7) + "x" + f"</{name}>" * (size // 7)


def _attributes(size: int) -> str:
    return f"<p {' '.join(f'a{number}=1' for number in range(size // 8))}>x</p>"


_CASES: dict[str, tuple[Work, Callable[[int], str]]] = {
    "sentences of dots": (sentences, _repeat(".")),
    "sentences of a letter": (sentences, _repeat("a. ")),
    "sentences of numbers": (sentences, _repeat("3. ")),
    "cut at words": (lambda text: cut([text], unit=Unit.WORDS, count=30), _repeat("a ")),
    "title of combining marks": (title_key, _repeat("\u0301\u0327\u0323", "a")),
    "link of dot segments": (canonical_link, _repeat("a/../", "https://a.example/")),
    "number of groups": (number_in, _repeat("1 111")),
    "hashtags": (hashtags, _repeat("#a")),
    "slug": (slugify, _repeat("é ")),
    "text of nested elements": (plain_text, _nested("b")),
    "text of <": (plain_text, _repeat("<")),
    "text of attributes": (plain_text, _attributes),
    "sanitised nested elements": (sanitise, _nested("div")),
    "sanitised open links": (sanitise, _repeat("<a href=x>")),
    "sanitised open tables": (sanitise, _repeat("<table><tr><td>")),
    "sanitised srcset": (sanitise, _repeat("a.png 1x,", "<img srcset='", "'>")),
    "absolute links": (lambda text: absolute(text, "https://a.example/"), _repeat("<a href=x>")),
    "features of words": (_features, _repeat("word and other ", "<p>", "</p>")),
    "features of one word": (_features, _repeat("a", "<p>", "</p>")),
    "features of breaks": (_features, _repeat("a<br>")),
    "features of Chinese": (_features, _repeat("彗星")),
    "features of marks": (_features, _repeat("a\u0301\u0327")),
    "decided paragraphs": (_decide, _repeat("<p>word here</p>")),
    "decided nested elements": (_decide, _nested("div")),
    "decided pictures": (_decide, _repeat("<img src='a.png'>")),
    "quotations of marks": (quotations, _repeat("“a” 'b' „c \"d\" ")),
    "quotations left open": (quotations, _repeat("„a 'b «")),
    "reworded quoted words": (_reword, _repeat("<b>big</b> “fast” 'big' ", "<p>", "</p>")),
    "reworded elements": (_reword, _repeat("<b>big</b>fast ", "<p>", "</p>")),
    "summary of sentences": (_summary, _repeat("A comet rose over a mill. ")),
    "summary of one sentence": (_summary, _repeat("comet ")),
    "decided quotes": (_decide, _repeat("\"'", "<p>", "</p>")),
    "decided empty paragraphs": (_decide, _repeat("<p></p>")),
    "decided links": (_decide, _repeat("<a href='https://b.example/'>x</a> ")),
    "feed of entity declarations": (_read, _repeat("<!ENTITY ", "<!DOCTYPE r [")),
    "author of dots": (_read_entry, _repeat("a.", "<author>", "</author>")),
    "categories": (_read_entry, _repeat("<category>c</category>")),
    "date of digits": (_read_entry, _repeat("1 ", "<pubDate>", "</pubDate>")),
    "date of letters": (_read_entry, _repeat("a-", "<pubDate>", "</pubDate>")),
    "description of ampersands": (_read_entry, _repeat("&", "<description>", "</description>")),
    "nested names": (_read_entry, _repeat("<a:b>")),
    "page of metadata": (
        lambda text: page_picture(text.encode(), "https://a.example/"),
        _repeat("<meta property='og:image' content='x'>"),
    ),
    "page of links": (lambda text: discover_feeds(text.encode(), "https://a.example/"), _repeat("<link ")),
}


def _timed(work: Work, given: str) -> float:
    begun = time.perf_counter()
    work(given)
    return time.perf_counter() - begun


def main() -> bool:
    """Print each growth with the seconds of the larger size.

    Return whether all are within the limit.
    """
    slow: list[str] = []
    print(f"growth from {_SIZE:,} to {_TIMES * _SIZE:,} characters:")
    for name, (work, make) in _CASES.items():
        work(make(_SIZE // _TIMES))
        small = min(_timed(work, make(_SIZE)) for _ in range(3))
        large = min(_timed(work, make(_TIMES * _SIZE)) for _ in range(2))
        too_fast = large > _SOON and large > _AT_MOST * small
        print(f"  {name:30} {large * 1000:8.1f} ms, {large / small:5.1f} times{'  <- too fast' if too_fast else ''}")
        slow += [name] if too_fast else []
    return not slow
