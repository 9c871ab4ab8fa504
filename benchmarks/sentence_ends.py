"""``./glyptarch benchmark sentence_ends``: recall and precision of sentence ends."""

from glyptarch_core.text import sentences

from benchmarks.sentence_set import LANGUAGES, paragraphs

__all__ = ["main"]

_WANTED = 0.97


def _ends(parts: list[str]) -> set[int]:
    """Return the sentence ends, in letters from the start of the paragraph, without spaces."""
    lengths = [len("".join(part.split())) for part in parts]
    return {sum(lengths[: number + 1]) for number in range(len(lengths) - 1)}


def main() -> bool:
    """Print the figures.

    Return whether they meet the targets.
    """
    holds = True
    for language in LANGUAGES:
        right = found = there = 0
        wrong: list[str] = []
        for parts in paragraphs(language):
            text = ("" if language == "zh" else " ").join(parts)
            split = sentences(text)
            wanted, given = _ends(parts), _ends(split)
            right, found, there = right + len(wanted & given), found + len(given), there + len(wanted)
            wrong += [part for part in split if part not in parts]
        precision, recall = right / max(1, found), right / there
        print(f"{language}: precision {precision:.3f}, recall {recall:.3f}")
        for part in wrong[:4]:
            print(f"      {part}")
        holds = holds and min(precision, recall) >= _WANTED
    return holds
