"""``./glyptarch benchmark memory``: the memory kept after a thousand edits."""

import gc
import resource
from pathlib import Path

from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.item import Captured, SourceCard, features_of
from glyptarch_core.pipeline import decide
from glyptarch_core.reuse import Reuse
from glyptarch_core.testing import FakeMemory

from benchmarks.database import NOW
from benchmarks.pairs import _Writer
from benchmarks.proofs import _BODY, _items, _rules

__all__ = ["main"]

_ITEMS = 1_000
_EDITS = 1_000
_MOST = 150
_MEGABYTE = 1 << 20


def _now() -> float:
    """Return the memory of this process in MB, after freeing unused memory."""
    gc.collect()
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * resource.getpagesize() / _MEGABYTE


def _edited(writer: _Writer, edit: int) -> CampaignDocument:
    """Return the rules after an edit of a term, a template, a step and a place in turn."""
    data = _rules(writer, f"{writer.common[edit % 900]}, {writer.common[(edit * 7) % 900]}").model_dump(mode="json")
    match edit % 4:
        case 1:
            data["shape"]["body"] = f"{_BODY}<p>Edit {edit}</p>"
        case 2:
            data["shape"]["steps"][0]["terms"] = [f"originally {edit}"]
        case 3:
            data["place"]["category"] = f"News {edit}"
    return load_document(data)


def main() -> bool:
    """Print the figures.

    Return whether they meet the target.
    """
    writer = _Writer(seed=11)
    card = SourceCard(key="wire", title="Wire")
    batch = [
        Captured(item=item, features=features_of(item), source=card, captured_at=NOW) for item in _items(writer, _ITEMS)
    ]
    reuse = Reuse()
    decide(batch, _rules(writer), memory=FakeMemory(), now=NOW, reuse=reuse)
    start = peak = _now()
    print(f"after the first proof of {_ITEMS:,} items: {start:.0f} MB")
    for edit in range(_EDITS):
        decide(batch, _edited(writer, edit), memory=FakeMemory(), now=NOW, reuse=reuse)
        if edit % 50 == 0:
            peak = max(peak, _now())
    peak = max(peak, _now())
    print(f"after {_EDITS:,} edits: {_now():.0f} MB; at most {peak - start:.0f} MB above the start (wanted {_MOST})")
    return peak - start <= _MOST
