"""How many items the core decides in a second on one core, against a script such as one writes in an afternoon."""

import difflib
import json
import re
import time
from collections.abc import Callable
from datetime import UTC, datetime

from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.item import Captured, Item, SourceCard, features_of
from glyptarch_core.pipeline import decide
from glyptarch_core.testing import FakeMemory
from glyptarch_core.text import plain_text

from benchmarks.pairs import _Writer, story

__all__ = ["main"]

_ITEMS = 400
_RULES = 50
_NOW = datetime(2026, 11, 24, 12, tzinfo=UTC)
# Twenty-five lines with conditions and filters, as a layout for posts has them.
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
    """Do as the afternoon's script: a pattern for each rule, and every text compared with all earlier ones."""
    kept: list[str] = []
    for item in items:
        text = plain_text(item.body)
        if any(re.search(rf"\\b{word}(zz|qq\\w*)\\b", text, re.IGNORECASE) for word in words):
            continue
        if any(difflib.SequenceMatcher(None, text, other).quick_ratio() > 0.95 for other in kept[-40:]):
            continue
        kept.append(text)
    return len(kept)


def _timed(work: Callable[[], object]) -> float:
    begun = time.process_time()
    work()
    return time.process_time() - begun


def main() -> bool:
    """Print the figures; True when the core decides at least as fast as wanted against the script."""
    writer = _Writer(7)
    document, items = _document(writer), _items(writer)
    card = SourceCard(key="club", title="Club")
    captured: list[Captured] = []
    capture = _timed(
        lambda: captured.extend(
            Captured(item=item, features=features_of(item), source=card, captured_at=_NOW) for item in items
        )
    )
    first = _timed(lambda: decide(captured, document, memory=FakeMemory(), now=_NOW))
    script = _timed(lambda: _script(items, writer.common[:_RULES]))
    words = sum(one.features.words for one in captured) / len(captured)
    figures = {
        "items": _ITEMS,
        "words an item": round(words),
        "capture, items/s": round(_ITEMS / capture),
        "decide with traces, items/s": round(_ITEMS / first),
        "the script (looking back at 40 items), items/s": round(_ITEMS / script),
        "times as fast": round(script / (capture + first), 2),
    }
    print("core throughput:", json.dumps(figures, indent=1))
    return script > capture + first
