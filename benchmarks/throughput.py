"""Items decided by the core in a second on one core, compared with a simple script."""

import difflib
import json
import re
import statistics
import time
from bisect import bisect_left
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime

import nh3
import numpy as np
from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.item import Captured, Item, SourceCard, features_of
from glyptarch_core.pipeline import decide
from glyptarch_core.testing import FakeMemory
from glyptarch_core.text import Passage, plain_text
from liquid import Environment
from lxml import html as lxml_html
from markupsafe import Markup

from benchmarks.pairs import _Writer, story

__all__ = ["LEAN_RATE", "lean_rate", "main"]

_ITEMS = 400
_RULES = 50
_CLEANER = nh3.Cleaner()
_ROUNDS = 3
_TURNS = 7
LEAN_RATE = 1_100
"""How many items a second the lean loop does on the machine that the targets speak of."""
# 800 items a second with traces where the lean loop does 1,100.
_MOST_OF_LEAN = LEAN_RATE / 800
_NOW = datetime(2026, 11, 24, 12, tzinfo=UTC)
# Twenty-five lines with conditions and filters, as in real layouts.
_TEMPLATE = "\n".join(
    [
        "<article>",
        "<h2>{{ title }}</h2>",
        "{% if lead %}<figure><img src='{{ lead.url }}' alt='{{ lead.alt }}'></figure>{% endif %}",
        *(f"{{% if words > {n * 40} %}}<span>{{{{ source.title | upcase }}}}</span>{{% endif %}}" for n in range(18)),
        "{{ body }}",
        "{% for name in authors %}<b>{{ name }}</b>{% endfor %}",
        "<p>{{ published | slice: 0, 10 }} {{ excerpt | truncatewords: 12 }}</p>",
        "</article>",
    ]
)


def _document(writer: _Writer) -> CampaignDocument:
    words = [*writer.common[:_RULES]]
    rules = [
        {"id": f"r{n}", "kind": "terms", "mode": "none", "terms": [f"{word}zz", f"{word}qq*"]}
        for n, word in enumerate(words)
    ]
    steps: list[dict[str, object]] = [
        {"kind": "drop_paragraphs", "terms": ["originally posted"]},
        {"kind": "cut", "phrase": "read more at"},
        {"kind": "links", "rel": ["nofollow"]},
        {"kind": "pictures", "describe": True},
        {"kind": "replace", "what": "the", "by": "this", "first": 1},
        {"kind": "tidy"},
    ]
    return load_document(
        {
            "gather": {"sources": ["club"]},
            "sift": {"rules": rules},
            "shape": {"steps": [{"id": f"s{n}", **step} for n, step in enumerate(steps)], "body": _TEMPLATE},
            "release": {"mode": "publish"},
        }
    )


def _items(writer: _Writer) -> list[Item]:
    return [
        Item(
            source="club",
            identity=str(number),
            link=f"https://club.example/{number}",
            title=writer.sentence(writer.topic()),
            body="".join(f"<p>{part}</p>" for part in story(writer)) + '<p><a href="https://a.example/">x</a></p>',
            published=_NOW,
        )
        for number in range(_ITEMS)
    ]


def _script(items: list[Item], words: list[str]) -> int:
    """Decide items as a simple script does.

    One pattern per rule, and a comparison with every earlier text.
    """
    kept: list[str] = []
    for item in items:
        text = plain_text(item.body)
        if any(re.search(rf"\\b{word}(zz|qq\\w*)\\b", text, re.IGNORECASE) for word in words):
            continue
        if any(difflib.SequenceMatcher(None, text, other).quick_ratio() > 0.95 for other in kept[-40:]):
            continue
        kept.append(text)
    return len(kept)


def _lean(items: list[Item], words: list[str]) -> int:
    """Do the bare work with the same libraries, without a trace, a model or a reason."""
    template = Environment(autoescape=True).from_string(_TEMPLATE)
    wanted = [({f"{word}zz"}, f"{word}qq") for word in words]
    made = 0
    for item in items:
        root = lxml_html.fragment_fromstring(item.body, create_parent="div")
        text = root.text_content()
        tokens = re.findall(r"\w+", text.lower())
        distinct, known = set(tokens), sorted(set(tokens))
        for exact, start in wanted:
            place = bisect_left(known, start)
            if exact & distinct or (place < len(known) and known[place].startswith(start)):
                break
        hashes = np.fromiter((hash(word) & 0xFFFFFFFF for word in tokens), dtype=np.uint64)
        np.unique(hashes[:-2] * 3 + hashes[1:-1] * 5 + hashes[2:])
        for link in root.iter("a"):
            link.set("rel", "nofollow")
        for image in root.iter("img"):
            image.set("alt", item.title)
        for element in root.iter():
            element.attrib.pop("style", None)
            if element.text:
                element.text = re.sub(r"\bthe\b", "this", re.sub(r"[ \t]{2,}", " ", element.text), count=1)
        body = Markup(lxml_html.tostring(root, encoding="unicode"))  # noqa: S704 - cleaned below
        values = {"title": item.title, "body": body, "words": len(tokens), "source": {"title": "Club"}}
        made += bool(_CLEANER.clean(template.render(**values, published="2026-11-24", excerpt=text[:300])))
    return made


def lean_rate() -> float:
    """Return the items a second of the lean loop on this machine, now.

    Other figures are relative to it. It is the median of several readings, because the compared figures are read once
    as well; the best would be that of an idle machine.
    """
    writer = _Writer(7)
    items = _items(writer)
    readings = [_timed(lambda: _lean(items, writer.common[:_RULES]), time.perf_counter) for _ in range(_ROUNDS)]
    return _ITEMS / statistics.median(readings)


def _timed(work: Callable[[], object], clock: Callable[[], float] = time.process_time) -> float:
    begun = clock()
    work()
    return clock() - begun


def _fresh(captured: list[Captured]) -> list[Captured]:
    """Return items as loaded from the database, with words and fingerprint only."""
    return [
        replace(
            one,
            features=replace(
                one.features,
                title=Passage(one.features.title.text),
                text=Passage(one.features.text.text, folded=one.features.text.folded),
            ),
        )
        for one in captured
    ]


def main() -> bool:
    """Print the figures.

    Return whether the core is faster than the script, and does 8 items while the lean loop does 11.
    """
    writer = _Writer(7)
    document, items = _document(writer), _items(writer)
    card = SourceCard(key="club", title="Club")
    captured: list[Captured] = []
    capture = _timed(
        lambda: captured.extend(
            Captured(item=item, features=features_of(item), source=card, captured_at=_NOW) for item in items
        )
    )
    # Alternating, because the speed of the machine varies; the best of each counts.
    turns = [
        (
            _timed(lambda: decide(_fresh(captured), document, memory=FakeMemory(), now=_NOW)),
            _timed(lambda: _lean(items, writer.common[:_RULES])),
        )
        for _ in range(_TURNS)
    ]
    first, lean = min(turn[0] for turn in turns), min(turn[1] for turn in turns)
    script = _timed(lambda: _script(items, writer.common[:_RULES]))
    words = sum(one.features.words for one in captured) / len(captured)
    figures = {
        "items": _ITEMS,
        "words an item": round(words),
        "capture, items/s": round(_ITEMS / capture),
        "decide with traces, items/s": round(_ITEMS / first),
        "a lean loop of the same libraries (capture in it), items/s": round(_ITEMS / lean),
        "decide takes, of the lean loop's time": round(first / lean, 2),
        "the script (looking back at 40 items), items/s": round(_ITEMS / script),
        "times as fast": round(script / (capture + first), 2),
    }
    print("core throughput:", json.dumps(figures, indent=1))
    return script > capture + first and first <= _MOST_OF_LEAN * lean
