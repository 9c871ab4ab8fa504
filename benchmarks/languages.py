"""``./glyptarch benchmark languages``: how often the language of a paragraph is found.

The paragraphs are those of translated manual pages and of a handbook in Debian's archive, in 29 languages. Nobody here
wrote them. ``apt-get`` fetches the packages into ``var/``. What is not translated there is left out by comparing it with
the English pages and by counting English function words and letters, not by a detector.
"""

import gzip
import html
import os
import random
import re
import subprocess
import time
from collections import defaultdict
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Final

from glyptarch_core.text import found_language

__all__ = ["fetched", "main"]

_MANUALS: Final = "cs da de el es fi fr hu id it ja nb nl pl pt-br ro ru sr sv tr uk vi zh".split()
_PACKAGES: Final = ["debian-handbook", "manpages", "manpages-dev", *(f"manpages-{code}" for code in _MANUALS)]
_CODES: Final = {"pt_BR": "pt", "zh_CN": "zh", "zh_TW": "zh"}
_FONTS: Final = re.compile(r"\\(?:f[A-Z]|f\([A-Z]{2}|f\[[^\]]*\]|s[+-]?\d|&|%|,|/|:)")
_SIGNS: Final = re.compile(r"\\\(\w\w|\\\[\w+\]|\\[-e'`~^|]")
_WORDS_OF_MACROS: Final = re.compile(r"\.(?:B|I|BR|IR|RB|RI|BI|IB)\s+(.*)")
_PARAGRAPH: Final = re.compile(r'<div class="para">(.*?)</div>', re.DOTALL)
_ENGLISH: Final = frozenset("the of and this with which are from that by you it can will if".split())
_DENSE: Final = frozenset({"ja", "zh", "ko"})
# Letters that at least half of those in a paragraph must be, else most of it is not translated.
_LETTERS: Final = {
    "el": "\u0370-\u03ff",
    "ko": "\uac00-\ud7af",
    "ja": "\u3040-\u30ff\u4e00-\u9fff",
    "zh": "\u4e00-\u9fff",
    "ru": "\u0400-\u04ff",
    "uk": "\u0400-\u04ff",
    "ar": "\u0600-\u06ff",
    "fa": "\u0600-\u06ff",
}
_EACH, _FEWEST = 400, 40
_WANTED = 0.98


def fetched(folder: Path, packages: Sequence[str] = _PACKAGES) -> Path:
    """Return the folder of unpacked Debian packages.

    Raises CalledProcessError where apt-get does not fetch them.
    """
    unpacked = folder / "unpacked"
    if not unpacked.exists():
        folder.mkdir(parents=True, exist_ok=True)
        subprocess.run(["apt-get", "download", "-q", *packages], cwd=folder, check=True, capture_output=True)
        for package in folder.glob("*.deb"):
            subprocess.run(["dpkg-deb", "-x", package, unpacked], check=True)
    return unpacked


def _of_manual(page: str) -> Iterator[str]:
    """Yield the paragraphs of a manual page (roff)."""
    words: list[str] = []
    for line in [*page.split("\n"), "."]:
        emphasised = _WORDS_OF_MACROS.match(line)
        if emphasised:
            words.append(emphasised[1].replace('"', ""))
        elif line.startswith((".", "'")):
            yield " ".join(_SIGNS.sub(" ", _FONTS.sub("", " ".join(words))).replace("\\", "").split())
            words = []
        else:
            words.append(line)


def _paragraphs(unpacked: Path) -> dict[str, list[str]]:
    found: defaultdict[str, set[str]] = defaultdict(set)
    for folder in (unpacked / "usr/share/man").iterdir():
        name = re.sub(r"man\d", "en", folder.name)
        code = _CODES.get(name, re.split("[_@.]", name)[0])
        for page in folder.glob("*.gz" if name == "en" else "man*/*.gz"):
            found[code].update(_of_manual(gzip.decompress(page.read_bytes()).decode("utf-8", "replace")))
    for folder in (unpacked / "usr/share/doc/debian-handbook/html").iterdir():
        for file in folder.glob("*.html"):
            for inside in _PARAGRAPH.findall(file.read_text("utf-8", "replace")):
                text = " ".join(html.unescape(re.sub(r"<[^>]+>", " ", inside)).split())
                found[folder.name.partition("-")[0]].add(text)
    english = found["en"]
    return {
        code: sorted(text for text in texts if _is_prose(text, code) and (code == "en" or text not in english))
        for code, texts in found.items()
    }


def _is_prose(text: str, code: str) -> bool:
    if not (50 if code in _DENSE else 120) <= len(text) < 1500:
        return False
    words = re.findall(r"\w+", text.lower())
    english = sum(word in _ENGLISH for word in words)
    is_english = english >= max(3, len(words) * 0.08)
    letters = [letter for letter in text if letter.isalpha()]
    if code in _LETTERS and len(re.findall(f"[{_LETTERS[code]}]", text)) < len(letters) / 2:
        return False
    signs = sum(letter.isalpha() or letter.isspace() for letter in text)
    return is_english == (code == "en") and signs >= len(text) * 0.8


def main() -> bool:
    """Run the benchmark. Return whether 98 % of all paragraphs are found right."""
    unpacked = fetched(Path(os.environ.get("GLYPTARCH_VAR", "var")) / "benchmark-languages")
    drawn = random.Random(5)  # noqa: S311 - not a secret
    texts = {code: drawn.sample(texts, min(_EACH, len(texts))) for code, texts in _paragraphs(unpacked).items()}
    texts = {code: some for code, some in sorted(texts.items()) if len(some) >= _FEWEST}
    found_language(next(iter(texts.values()))[0])
    begun, right, said, number = time.perf_counter(), 0, 0, 0
    for code, some in texts.items():
        answers = [found_language(text) for text in some]
        right += answers.count(code)
        said += len(some) - answers.count("")
        number += len(some)
        print(f"{code}  {len(some):4} paragraphs  {100 * answers.count(code) / len(some):5.1f} % right")
    took = (time.perf_counter() - begun) / number * 1000
    print(f"{len(texts)} languages, {number:,} paragraphs: an answer to {100 * said / number:.1f} %, ", end="")
    print(f"{100 * right / said:.2f} % of the answers right, {took:.2f} ms each")
    return right / said >= _WANTED
