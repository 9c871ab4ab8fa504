"""``./glyptarch benchmark editions``: rewording and summaries of texts, offline.

The texts and the 2,000 synonyms are made up. What it measures is time: ratios hold in one run only.
"""

import statistics
import time

from glyptarch_core.item import Captured, SourceCard, features_of
from glyptarch_core.ports import BlogContext, TableRow
from glyptarch_core.shape import ShapeSettings, compile_shape

from benchmarks.pairs import _Writer
from benchmarks.throughput import LEAN_RATE, _items, lean_rate

__all__ = ["main"]

_LINES = 2_000
_ROUNDS = 3
_WANTED = 150


def main() -> bool:
    """Run the benchmark. Return whether 150 items a second are reworded and summarised."""
    writer = _Writer(11)
    items = _items(writer)
    words = [*dict.fromkeys(word for item in items for word in item.body.replace("<p>", " ").split() if word.isalpha())]
    rows = tuple(TableRow(what=f"{word}/{word}s", by=f"{word[::-1]}/{word[::-1]}s") for word in words[:_LINES])
    steps = [
        {"id": "reword", "kind": "reword", "tables": ["synonyms"], "percent": 20},
        {"id": "summarise", "kind": "summarise", "words": 80},
    ]
    context = BlogContext(language="en", tables={"synonyms": rows})
    begun = time.perf_counter()
    shape = compile_shape(ShapeSettings.model_validate({"steps": steps}), context)
    compiled = time.perf_counter() - begun
    bare = compile_shape(ShapeSettings(), context)
    rates = []
    for _ in range(_ROUNDS):
        times = []
        for function in (bare, shape):
            fresh = [
                Captured(
                    item=item,
                    features=features_of(item),
                    source=SourceCard(key="club", title="Club"),
                    captured_at=item.published,
                )
                for item in items
                if item.published is not None
            ]
            begun = time.perf_counter()
            for captured in fresh:
                function(captured, captured.item.body)
            times.append(time.perf_counter() - begun)
        rates.append(len(items) / (times[1] - times[0]))
    rate, here = statistics.median(rates), lean_rate()
    told = rate * LEAN_RATE / here
    print(
        f"{len(rows):,} lines read in {compiled * 1000:.0f} ms; {statistics.mean(len(i.body.split()) for i in items):.0f} words an item"
    )
    print(
        f"{rate:.0f} items a second here, {told:.0f} in proportion (the lean loop does {here:.0f} here); wanted {_WANTED}"
    )
    return told >= _WANTED
