"""``./glyptarch benchmark [NAME …]``: run the measurements."""

import sys

from benchmarks import (
    busy,
    desk,
    editions,
    fairness,
    growth,
    hostile,
    key_press,
    languages,
    many_feeds,
    many_offers,
    memory,
    near_scripts,
    near_text,
    offers,
    pages,
    polling,
    proofs,
    readers,
    real_pages,
    replay,
    run_memory,
    schedules,
    sentence_ends,
    sizes,
    throughput,
    translations,
)

__all__: list[str] = []

_ALL = {
    "busy": busy.main,
    "near_text": near_text.main,
    "offers": offers.main,
    "near_scripts": near_scripts.main,
    "throughput": throughput.main,
    "proofs": proofs.main,
    "key_press": key_press.main,
    "languages": languages.main,
    "growth": growth.main,
    "desk": desk.main,
    "editions": editions.main,
    "fairness": fairness.main,
    "many_feeds": many_feeds.main,
    "many_offers": many_offers.main,
    "memory": memory.main,
    "pages": pages.main,
    "schedules": schedules.main,
    "polling": polling.main,
    "readers": readers.main,
    "real_pages": real_pages.main,
    "replay": replay.main,
    "run_memory": run_memory.main,
    "hostile": hostile.main,
    "sentence_ends": sentence_ends.main,
    "sizes": sizes.main,
    "translations": translations.main,
}


def _main() -> int:
    chosen = sys.argv[1:] or list(_ALL)
    unknown = [name for name in chosen if name not in _ALL]
    if unknown:
        sys.exit(f"There is no benchmark {', '.join(unknown)}. There are: {', '.join(_ALL)}.")
    return max([0, *(int(not _ALL[name]()) for name in chosen)])


# Child processes of a measurement import this module again.
if __name__ == "__main__":
    sys.exit(_main())
