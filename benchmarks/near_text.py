"""``./glyptarch benchmark near_text``: precision and recall of near matches."""

from collections import Counter, defaultdict

from glyptarch_core.match import NearText
from glyptarch_core.match.near import Told, told_by
from glyptarch_core.text import FEWEST_SHARED, Passage, differences, fingerprint_of, likeness

from benchmarks.pairs import labelled_pairs

__all__ = ["main"]

_PAIRS = 3000
_RULE = NearText(id="near")


def main() -> bool:
    """Print the figures.

    Return whether they meet the targets.
    """
    found: Counter[tuple[bool, bool]] = Counter()
    by_way: dict[str, Counter[bool]] = defaultdict(Counter)
    misses: list[tuple[float, float, str, str]] = []
    for pair in labelled_pairs(_PAIRS):
        one, other = Passage.of_text(pair.one), Passage.of_text(pair.other)
        like = likeness(fingerprint_of(one), fingerprint_of(other))
        long_enough = min(one.word_count, other.word_count) >= _RULE.at_least_words
        found_other = differences(one, other)
        said = long_enough and like.text >= _RULE.likeness and told_by(found_other) is Told.SAME
        shared_key = len(set(fingerprint_of(one).keys) & set(fingerprint_of(other).keys)) >= FEWEST_SHARED
        said = said and shared_key
        found[pair.same, said] += 1
        by_way[pair.how.split(" ", 1)[1] if "%" in pair.how.split(" ")[0] else pair.how.split(" to ")[0]][
            said is pair.same
        ] += 1
        if said is not pair.same:
            misses.append((like.text, found_other.share, pair.how, pair.other[:70]))
    precision = found[True, True] / max(1, found[True, True] + found[False, True])
    recall = found[True, True] / max(1, found[True, True] + found[True, False])
    print(f"near text on {_PAIRS} pairs: precision {precision:.3f} (wanted 0.98), recall {recall:.3f} (wanted 0.95)")
    for way, counts in sorted(by_way.items()):
        print(f"  {way:32} right {counts[True]:5} wrong {counts[False]:4}")
    print("worst misses (text, share replaced, how it was made):")
    for text, share, how, start in sorted(misses, reverse=True)[:8]:
        print(f"  {text:.2f} {share:.3f} {how}: {start}…")
    return precision >= 0.98 and recall >= 0.95


if __name__ == "__main__":
    raise SystemExit(0 if main() else 1)
