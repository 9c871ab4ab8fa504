"""Randomly damaged feeds and pages through the readers and every stage.

No unexpected exception may be raised.
"""

import json
import os
import random
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from datetime import UTC, datetime

from glyptarch_core.campaign import load_document
from glyptarch_core.errors import ParseError
from glyptarch_core.item import Captured, SourceCard, features_of
from glyptarch_core.pages.desk import RawPage, article_item, article_of, frame_of, list_of, look_at, point
from glyptarch_core.pages.document import ArticlePage, ListPage
from glyptarch_core.pages.reading import ArticleRead
from glyptarch_core.pipeline import decide
from glyptarch_core.readers import Feed, FeedEntry, discover_feeds, page_picture, read_feed
from glyptarch_core.testing import FakeMemory
from glyptarch_standins.feeds import write_feed
from glyptarch_standins.stories import SITES, stories_up_to

from benchmarks.made_sites import made_sites

__all__ = ["main"]

_INPUTS = int(os.environ.get("GLYPTARCH_INPUTS", "20000"))
_BATCH = 1000
_SLOW = 1.0
_NOW = datetime(2026, 11, 24, 12, tzinfo=UTC)
_BASE = "https://feeds.example"
_TYPES = (
    "",
    "text/xml; charset=utf-16",
    "application/rss+xml",
    "text/html",
    "application/json; charset=\x00",
    "text/xml; charset=x",
)
_ENCODINGS = ("utf-16", "utf-32", "utf-8-sig", "latin-1", "utf-16-le", "cp932", "koi8-r")
# Text that breaks parsers, inserted anywhere.
_TOKENS = (
    "< > & &#0; &#1; &#xD800; &#x110000; &#55356;&#57120; ]]> <![CDATA[ \" ' \x00 \ud800 <item> </item> <entry/> <b> </b> <!-- "
    '<!ENTITY&#32;a&#32;"b"> &a; {...p} {{title}} {%if%} 99999999999999999999 -1 ² \\u0000 \\ud800 null [] {} 1e999 NaN true '
    'xml:base="http://[" http://[ xmlns:x="y" <x:y> <?php?> <!DOCTYPE&#32;html> encoding="utf-16" 0000-00-00 24:00 '
    "1795521600 0001-01-01T00:00:00+14:00 9999-99-99T99:99:99Z width='²' <img&#32;src=x&#32;width=9e9> <iframe> <table><tr> <style> </body> #!/ "
).split(" ")
_DOCUMENT = {
    "gather": {"sources": ["club"]},
    "sift": {
        "rules": [
            {"id": "terms", "kind": "terms", "mode": "none", "terms": ["zzz", "C++"]},
            {"id": "query", "kind": "query", "query": "-zzz (a OR b OR -c)"},
            {"id": "number", "kind": "number", "field": "words", "at_least": 0},
        ]
    },
    "shape": {
        "steps": [
            {"id": "tidy", "kind": "tidy", "quotes": True},
            {"id": "select", "kind": "select", "selector": "aside"},
            {"id": "pictures", "kind": "pictures", "smallest_width": 5, "box_width": 300, "describe": True},
            {"id": "links", "kind": "links", "rel": ["nofollow"]},
            {"id": "drop", "kind": "drop_paragraphs", "terms": ["posted on"]},
            {"id": "shorten", "kind": "shorten", "unit": "sentences", "count": 9},
        ],
        "body": "{{ body }}{% for one in categories %}{{ one | upcase }}{% endfor %}",
    },
    "place": {"tag_rules": [{"id": "title", "kind": "title"}, {"id": "hash", "kind": "hashtags"}]},
}


def _seeds() -> list[bytes]:
    return [write_feed(site, stories_up_to(site, _NOW, 7, count=2), _BASE) for site in SITES]


def _spoiled(seed: bytes, rng: random.Random) -> bytes:
    """Return a feed with one to six faults.

    Bytes are inserted, removed, changed or repeated, or the encoding is another.
    """
    made = bytearray(seed)
    for _ in range(rng.randint(1, 6)):
        at, fault = rng.randrange(len(made) + 1), rng.randrange(6)
        if fault < 2:
            made[at:at] = rng.choice(_TOKENS).replace("&#32;", " ").encode("utf-8", "surrogatepass")
        elif fault == 2:
            del made[at : at + rng.randint(1, 30)]
        elif fault == 3:
            made[at : at + 1] = bytes([rng.randrange(256)])
        elif fault == 4:
            other = rng.randrange(len(made) + 1)
            made[at:at] = made[other : other + rng.randint(1, 60)]
        else:
            made = bytearray(bytes(made).decode("utf-8", "replace").encode(rng.choice(_ENCODINGS), "replace"))
    return bytes(made)


def _fits_the_database(feed: Feed) -> None:
    for item in feed.items:
        features = features_of(item)
        kept = [
            item.identity,
            item.title,
            item.body,
            *item.authors,
            *item.categories,
            features.title_key,
            features.link_key,
        ]
        written = json.dumps([kept, item.raw, dict(item.facts)], allow_nan=False, ensure_ascii=False)
        written.encode()
        if any("\x00" in text for text in kept):
            raise ValueError("there is a NUL in an item")


def _batch(number: int) -> Counter[str]:
    rng = random.Random(number)  # noqa: S311 - not for secrets
    seeds, document = _seeds(), load_document(_DOCUMENT)
    card, memory = SourceCard(key="club", title="Club"), FakeMemory()
    counts: Counter[str] = Counter()
    for _ in range(_BATCH):
        given, begun = _spoiled(rng.choice(seeds), rng), time.process_time()
        counts["inputs"] += 1
        try:
            feed = read_feed(given, source="club", url=f"{_BASE}/feed", content_type=rng.choice(_TYPES))
            _fits_the_database(feed)
            captured = [
                Captured(item=item, features=features_of(item), source=card, captured_at=_NOW) for item in feed.items
            ]
            for decision in decide(captured, document, memory=memory, now=_NOW):
                counts["items decided"] += 1
                if decision.reason is not None and decision.reason.code == "shape.failed":
                    counts[f"! one item failed by itself: {decision.reason.data}"] += 1
            for warning in feed.warnings:
                if warning.code == "entry_unreadable":
                    counts[f"! one entry failed by itself: {warning.detail}"] += 1
        except ParseError:
            counts["refused as no feed"] += 1
        except Exception as error:  # noqa: BLE001 - what is looked for
            counts[f"! {type(error).__name__}: {str(error)[:80]}"] += 1
        discover_feeds(given, _BASE)
        page_picture(given, _BASE)
        if time.process_time() - begun > _SLOW:
            counts[f"! longer than {_SLOW} s"] += 1
    return counts


def _page_seeds() -> list[bytes]:
    sites = made_sites(kept=False)
    lists = [site.list_html.encode() for site in sites]
    return lists + [site.pages[site.articles[0].slug].encode() for site in sites]


def _page_batch(number: int) -> Counter[str]:
    """Read spoiled pages in every way that the desk and a reading do."""
    rng = random.Random(number)  # noqa: S311 - not for secrets
    seeds, counts = _page_seeds(), Counter[str]()
    for _ in range(_BATCH // 10):
        raw = RawPage(body=_spoiled(rng.choice(seeds), rng), url=f"{_BASE}/", content_type=rng.choice(_TYPES))
        counts["pages"] += 1
        begun = time.process_time()
        try:
            proposed = look_at(raw).lists
            frame_of(raw)
            point(raw, [rng.randrange(60)], [], only=rng.random() < 0.5)
            list_of(raw, proposed[0].settings if proposed else ListPage(link="a"))
            read = article_of(raw, ArticlePage(), _NOW)
            if isinstance(read, ArticleRead):
                made = article_item(read, "club", None, "", ())
                _fits_the_database(
                    Feed(format="", title="", link="", language="", entries=(FeedEntry(made.item, 1),), warnings=())
                )
        except ParseError:
            counts["refused as no page"] += 1
        except Exception as error:  # noqa: BLE001 - what is looked for
            counts[f"! {type(error).__name__}: {str(error)[:80]}"] += 1
        if time.process_time() - begun > _SLOW:
            counts[f"! a page took longer than {_SLOW} s"] += 1
    return counts


def main() -> bool:
    """Print the outcomes.

    Return whether only ``ParseError`` was raised and no input took a second of CPU time.
    """
    counts: Counter[str] = Counter()
    with ProcessPoolExecutor() as pool:
        for done, one in enumerate(pool.map(_batch, range(-(-_INPUTS // _BATCH))), start=1):
            counts += one
            if done % 10 == 0:
                print(f"  {done * _BATCH:,} inputs read", flush=True)
        for one in pool.map(_page_batch, range(-(-_INPUTS // _BATCH))):
            counts += one
    print("spoiled feeds and pages:", json.dumps(dict(counts.most_common()), indent=1, ensure_ascii=False))
    return not any(name.startswith("!") for name in counts)
