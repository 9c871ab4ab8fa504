"""``./glyptarch benchmark proofs``: the time of a proof, and of the answer to an edit.

Compared with a loop without reuse.
"""

import statistics
import time
from collections.abc import Callable
from datetime import timedelta

from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.item import Item

from benchmarks.database import NOW, empty_database, sql
from benchmarks.pairs import _Writer, story
from benchmarks.throughput import LEAN_RATE, lean_rate

__all__ = ["main"]

# Items, and the most milliseconds of the first proof and of an edit, on a machine whose lean loop does 1,100 items a
# second.
_TARGETS = ((200, 200, 30), (1_000, 1_000, 60))
_EDITS = 21
_ROUNDS = 5
_BODY = """<h2>{{ title }}</h2>{% if lead %}<figure><img src="{{ lead.url }}" alt=""></figure>{% endif %}
{{ body }}<p>{{ source.title }} · {{ published | slice: 0, 10 }}</p>"""


def _items(writer: _Writer, number: int) -> list[Item]:
    return [
        Item(
            source="wire",
            identity=str(place),
            link=f"https://wire.example/{place}",
            title=writer.sentence(writer.topic()),
            body="".join(f"<p>{part}</p>" for part in story(writer)) + "<p>Originally posted elsewhere</p>",
            published=NOW - timedelta(minutes=place),
        )
        for place in range(number)
    ]


def _rules(writer: _Writer, last: str = "none") -> CampaignDocument:
    rules: list[dict[str, object]] = [
        {"id": f"r{n}", "kind": "terms", "mode": "none", "terms": [f"{word}zz", f"{word}qq*"]}
        for n, word in enumerate(writer.common[:20])
    ]
    rules.append({"id": "edited", "kind": "terms", "mode": "none", "terms": [last]})
    steps = [
        {"id": "a", "kind": "drop_paragraphs", "terms": ["originally posted"]},
        {"id": "b", "kind": "links", "rel": ["nofollow"]},
        {"id": "c", "kind": "tidy"},
    ]
    return load_document(
        {
            "gather": {"sources": ["wire"]},
            "sift": {"rules": rules},
            "shape": {"steps": steps, "body": _BODY},
            "place": {"category": "News", "tag_rules": [{"id": "t", "kind": "title"}]},
            "release": {"mode": "publish"},
        }
    )


def _milliseconds(action: Callable[[], object]) -> float:
    begun = time.perf_counter()
    action()
    return (time.perf_counter() - begun) * 1000


def _measure(number: int, seed: int) -> tuple[float, float, float]:
    """Return the times of the first proof, of an edit (median), and without reuse.

    In milliseconds relative to the lean loop, which runs before and after, because the speed of a machine varies.
    """
    from glyptarch_core.pipeline import decide  # noqa: PLC0415 - Django is set up only now
    from glyptarch_server.blogs.actions import create_blog  # noqa: PLC0415
    from glyptarch_server.campaigns.actions import create_campaign  # noqa: PLC0415
    from glyptarch_server.items.capturing import capture  # noqa: PLC0415
    from glyptarch_server.items.queries import recent_captured  # noqa: PLC0415
    from glyptarch_server.posts.memory import PostMemory  # noqa: PLC0415
    from glyptarch_server.proofs.prove import make_proof  # noqa: PLC0415
    from glyptarch_server.sources.models import Source  # noqa: PLC0415

    writer = _Writer(seed=seed)
    blog = create_blog(slug=f"bench-{seed}", title="Bench", tagline="", language="en", now=NOW)
    source = Source.objects.create(
        blog=blog, key="wire", url=f"https://w.example/{seed}", title="W", right="full", added_at=NOW
    )
    capture(source, _items(writer, number), now=NOW)
    campaign = create_campaign(blog, "Bench", _rules(writer), by=None, now=NOW)
    # As autovacuum does in production; otherwise the planner takes every table to be empty.
    sql("ANALYZE")
    first = _in_proportion(lambda: _milliseconds(lambda: make_proof(campaign, _rules(writer), now=NOW)))

    def edit(place: int) -> float:
        document = _rules(writer, f"{writer.common[place]}, {writer.common[place + 30]}")
        return _milliseconds(lambda: make_proof(campaign, document, now=NOW))

    def edits() -> float:
        return statistics.median(edit(place) for place in range(_EDITS))

    answer = _in_proportion(edits)
    batch = list(recent_captured([source], since=NOW - timedelta(days=30), limit=number).values())
    document = _rules(writer, "another zz")
    anew = _in_proportion(lambda: _milliseconds(lambda: decide(batch, document, memory=PostMemory(campaign), now=NOW)))
    return first, answer, anew


def _in_proportion(measure: Callable[[], float]) -> float:
    """Measure milliseconds, scaled to a machine whose lean loop does 1,100 items a second."""
    before = lean_rate()
    milliseconds = measure()
    return milliseconds * ((before + lean_rate()) / 2) / LEAN_RATE


def main() -> bool:
    """Print the figures.

    Return whether they meet the targets.
    """
    holds = True
    with empty_database():
        _measure(20, 0)
        for number, most_first, most_edit in _TARGETS:
            rounds = [_measure(number, number + place) for place in range(_ROUNDS)]
            for one in rounds:
                print("      first {:.0f} ms, edit {:.0f} ms, without reuse {:.0f} ms".format(*one))
            first, edit, anew = (statistics.median(values) for values in zip(*rounds, strict=True))
            print(
                f"{number:>5} items, in proportion to a lean loop of {LEAN_RATE} items/s: first proof {first:.0f} ms "
                f"(wanted {most_first}), after an edit {edit:.0f} ms (wanted {most_edit}), without reuse {anew:.0f} ms"
            )
            holds = holds and first <= most_first and edit <= most_edit
    return holds
