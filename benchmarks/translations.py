"""``./glyptarch benchmark translations``: what the checks of language services find.

The texts are the paragraphs of the Debian handbook with their translations by people, in the languages that are far
enough, and the longer messages of desktop programs in languages and scripts beyond these. Nobody here wrote them.
Paragraphs belong together where a page has as many of them in both languages. Every second one was looked at when the
bounds of lengths were set; only the others are measured. Of the messages, none was looked at for the bounds; some were
for what counts as a letter and as an end.

A good translation that is refused costs a request and a look; a spoilt one that is taken reaches a post.
"""

import html
import os
import random
import re
from collections import Counter
from collections.abc import Callable, Iterator
from gettext import GNUTranslations
from pathlib import Path
from typing import Final

from glyptarch_core.editions import checked
from glyptarch_core.editions.names import common_words, names_in
from glyptarch_core.language_services import Ask, TextTask
from glyptarch_core.text import found_language, sentences

from benchmarks.languages import fetched

__all__ = ["main"]

_PARAGRAPH: Final = re.compile(r'<div class="para">(.*?)</div>', re.DOTALL)
_EACH, _FEWEST = 400, 150
_SHORTEST = 40
_MOST_REFUSED, _LEAST_FOUND = 0.06, 0.95
_LONG_MESSAGE = 60
_PLACES: Final = re.compile(r"[%<>_&{}]")
_PROGRAMS = (
    *("evolution-common", "nautilus-data", "libglib2.0-data", "libgtk-3-common", "gnome-control-center-data"),
    *("epiphany-browser-data", "file-roller"),
)
_BEYOND = "hi bn_IN ta te ml kn gu pa mr th ar fa he ko ja zh_CN vi tr fi hu el bg".split()
_MOST_REFUSED_BEYOND = 0.1
_DIGIT: Final = re.compile(r"\d")


def _paragraphs(file: Path) -> list[str]:
    inside = _PARAGRAPH.findall(file.read_text("utf-8", "replace"))
    return [" ".join(html.unescape(re.sub(r"<[^>]+>", "", text)).split()) for text in inside]


def _pairs(english: Path, other: Path) -> Iterator[tuple[str, str, frozenset[str]]]:
    """Yield paragraphs with their translations, and the words in small letters of the page."""
    for file in sorted(english.glob("*.html")):
        if not (other / file.name).exists():
            continue
        before, after = _paragraphs(file), _paragraphs(other / file.name)
        if len(before) != len(after):
            continue
        common = common_words(" ".join(before))
        for text, translated in zip(before, after, strict=True):
            # What is not translated there is no translation.
            if text != translated and len(text) > _SHORTEST and found_language(translated) != "en":
                yield text, translated, common


def _messages(folder: Path) -> list[tuple[str, str]]:
    """Return the longer messages of programs with their translations.

    Those with places for values are left out.
    """
    found = dict[str, str]()
    for file in sorted(folder.glob("*.mo")):
        with file.open("rb") as opened:
            # Babel stops at dates in heads that are not in its form.
            messages = GNUTranslations(opened)._catalog  # type: ignore[attr-defined]  # noqa: SLF001
        for told, said in messages.items():
            if isinstance(told, str) and len(told) > _LONG_MESSAGE and said != told:
                found[told.rpartition("\x04")[2]] = " ".join(said.split())
    return [(told, said) for told, said in found.items() if said and not _PLACES.search(told)]


def _beyond(root: Path, drawn: random.Random) -> float:
    """Print the share of good messages that are refused, by language, and return that of all."""
    good, refused = 0, 0
    for language in _BEYOND:
        pairs = _messages(root / language / "LC_MESSAGES")
        pairs = drawn.sample(pairs, min(_EACH, len(pairs)))
        common = common_words(" ".join(told for told, _ in pairs))
        faults = Counter[str]()
        for told, said in pairs:
            names = names_in(told, "en", common=common)
            tag = language.replace("_", "-")
            ask = Ask(task=TextTask.TRANSLATE, services=("s",), text=told, source="en", target=tag, names=names)
            faults[checked(ask, said, by="s").fault] += 1
        failed = len(pairs) - faults.pop("", 0)
        good, refused = good + len(pairs), refused + failed
        share = failed / len(pairs) if pairs else 0.0
        print(
            f"{language:6} {share:6.1%} of {len(pairs)} messages refused, for {dict(faults.most_common(3))}", flush=True
        )
    return refused / good


def _another_digit(text: str) -> str:
    return _DIGIT.sub(lambda digit: str((int(digit[0]) + 3) % 10), text, count=1)


def _without_a_sentence(text: str) -> str:
    parts = sentences(text)
    return " ".join(parts[: len(parts) // 2]) if len(parts) > 1 else ""


_SPOILS: Final[dict[str, Callable[[str], str]]] = {
    "another number": _another_digit,
    "half of its sentences": _without_a_sentence,
    "its first half": lambda text: text[: len(text) // 2],
    "cut off near its end": lambda text: text[: -max(12, len(text) // 10)],
    "said twice": lambda text: f"{text} {text}",
    "a tag": lambda text: f"{text} <b>new</b>",
    "an address": lambda text: f"{text} https://else.example/",
}


def main() -> bool:
    """Run the benchmark.

    Return whether few good translations are refused and most spoilt ones found.
    """
    unpacked = fetched(Path(os.environ.get("GLYPTARCH_VAR", "var")) / "benchmark-languages")
    root = unpacked / "usr/share/doc/debian-handbook/html"
    drawn = random.Random(11)  # noqa: S311 - not a secret
    good, refused, why = 0, 0, Counter[str]()
    tried, found = Counter[str](), Counter[str]()
    for folder in sorted(root.iterdir()):
        pairs = list(_pairs(root / "en-US", folder))[1::2] if folder.name != "en-US" else []
        if len(pairs) < _FEWEST:
            continue
        language, failed = folder.name.partition("-")[0], 0
        for text, translated, common in drawn.sample(pairs, min(_EACH, len(pairs))):
            names = names_in(text, "en", common=common)
            ask = Ask(task=TextTask.TRANSLATE, services=("s",), text=text, source="en", target=language, names=names)
            fault = checked(ask, translated, by="s").fault
            good += 1
            if fault:
                refused, failed = refused + 1, failed + 1
                why[fault] += 1
                continue
            if len(text) > 2 * _SHORTEST:
                tried["the text itself"] += 1
                found["the text itself"] += bool(checked(ask, text, by="s").fault)
            for name, spoil in _SPOILS.items():
                spoilt = spoil(translated)
                if spoilt and spoilt != translated:
                    tried[name] += 1
                    found[name] += bool(checked(ask, spoilt, by="s").fault)
        print(f"{folder.name:6} {failed / min(_EACH, len(pairs)):6.1%} refused", flush=True)
    print(f"{good} translations by people: {refused / good:.1%} refused, for {dict(why.most_common())}")
    for name, number in tried.items():
        print(f"{name:24} {found[name] / number:6.1%} of {number} found")
    programs = fetched(Path(os.environ.get("GLYPTARCH_VAR", "var")) / "benchmark-messages", _PROGRAMS)
    beyond = _beyond(programs / "usr/share/locale", drawn)
    print(f"{beyond:.1%} of the messages refused")
    holds = (
        beyond < _MOST_REFUSED_BEYOND
        and refused < good * _MOST_REFUSED
        and sum(found.values()) > sum(tried.values()) * _LEAST_FOUND
    )
    print("holds" if holds else "does not hold")
    return holds
