"""Invented texts in ten scripts that are hard to distinguish.

Forms, offers, weather, reports and updates.
"""

import random
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import partial

__all__ = ["KINDS", "SCRIPTS", "HardPair", "Teller", "hard_pairs"]

SCRIPTS: Mapping[str, str] = {
    "Latin": "ba ce di fo gu ha ki lo mu ne pa ro si ta ve zor",
    "Cyrillic": "ба ве ди жо ку ла мы не по ру са те фо ха ши зор",
    "Greek": "βα γε δι ζο κυ λα μη νε πο ρυ σα τε φο χα ψι θω",
    "Arabic": "با تي جو دا ري سو شا صي طو عا في قو كا لي مو نا",
    "Hebrew": "בא גי דו הא זי חו טא יכ לו מא ני סו עא פי צו קר",
    "Devanagari": "का खि गु चा जि टु डा ति दु ना पि बु मा रि लु सा",
    "Thai": " ".join(first + vowel for first in "กขคงจชดตทนบปพมรส" for vowel in ("า", "ิ", "ุ", "ี")),
    # Characters are words here, so there are many, as in real texts.
    "Chinese": " ".join(map(chr, range(0x4E00, 0x4E00 + 400))),
    "Japanese": " ".join([*map(chr, range(0x304B, 0x3094)), *map(chr, range(0x5C71, 0x5C71 + 120))]),
    "Hangul": "가 나 다 라 마 바 사 아 자 차 카 타 파 하 고 노",
}
"""Syllables of each script; Thai, Chinese and Japanese are written without spaces."""

_WITHOUT_SPACES = frozenset({"Thai", "Chinese", "Japanese"})
_WITH_CAPITALS = frozenset({"Latin", "Cyrillic", "Greek"})
_ENDS = {"Chinese": "。", "Japanese": "。", "Devanagari": "।"}


@dataclass(frozen=True, slots=True)
class HardPair:
    """Two texts in one script, of one kind, and whether they tell the same story."""

    script: str
    kind: str
    one: str
    other: str
    same: bool


class Teller:
    """Writes invented stories in one script.

    The forms are those of one blog, the same for every teller of a script.
    """

    def __init__(self, script: str, seed: int) -> None:
        self.script = script
        self.rng = random.Random(f"{script} {seed}")  # noqa: S311 - made-up texts
        standing = random.Random(script)  # noqa: S311 - made-up texts
        self._words = self._lexicon(standing, 1200)
        self._names = [word.capitalize() for word in self._lexicon(standing, 300)]
        # A gap of a form is None for a name and 0 for a number.
        self.forms = [self._form(standing) for _ in range(6)]
        self.stock = [self._sentence(standing) for _ in range(5)]

    def _lexicon(self, rng: random.Random, size: int) -> list[str]:
        syllables = SCRIPTS[self.script].split()
        return ["".join(rng.choices(syllables, k=rng.randint(2, 4))) for _ in range(size)]

    def _joined(self, words: list[str]) -> str:
        text = ("" if self.script in _WITHOUT_SPACES else " ").join(words)
        return text.capitalize() if self.script in _WITH_CAPITALS else text

    def _sentence(self, rng: random.Random) -> str:
        words = [self._words[int(rng.random() ** 1.5 * len(self._words))] for _ in range(rng.randint(8, 16))]
        return self._joined(words) + _ENDS.get(self.script, ".")

    def _form(self, rng: random.Random) -> list[str | int | None]:
        parts: list[str | int | None] = []
        for _ in range(9):
            parts += rng.choices(self._words, k=rng.randint(3, 7))
            parts.append(rng.choice([None, 0]))
        return parts

    def sentence(self) -> str:
        """Return a new sentence with a name and possibly a number."""
        made = self._sentence(self.rng)
        end = _ENDS.get(self.script, ".")
        gap = "" if self.script in _WITHOUT_SPACES else " "
        extra = self.rng.choice(self._names) + (f"{gap}{self.rng.randint(2, 990)}" if self.rng.random() < 0.4 else "")
        return made.removesuffix(end) + gap + extra + end

    def story(self) -> list[str]:
        """Return the sentences of a new story."""
        return [self.sentence() for _ in range(self.rng.randint(8, 25))]

    def filled(self, form: list[str | int | None]) -> str:
        """Fill a form with new names and numbers: a notice, an offer, the weather, a match report."""
        words = [
            self.rng.choice(self._names)
            if part is None
            else str(self.rng.randint(2, 990))
            if isinstance(part, int)
            else part
            for part in form
        ]
        return ("" if self.script in _WITHOUT_SPACES else " ").join(words) + _ENDS.get(self.script, ".")

    def edited(self, sentences: list[str]) -> list[str]:
        """Return a story with every eighth sentence rewritten."""
        return [self.sentence() if self.rng.random() < 0.12 else sentence for sentence in sentences]


def _copy(teller: Teller) -> tuple[str, str]:
    story = " ".join(teller.story())
    return story, story


def _excerpt(teller: Teller) -> tuple[str, str]:
    story = teller.story()
    return " ".join(story), " ".join(story[: max(5, len(story) * 3 // 5)])


def _edited(teller: Teller) -> tuple[str, str]:
    story = teller.story()
    return " ".join(story), " ".join(teller.edited(story))


def _framed(teller: Teller) -> tuple[str, str]:
    story = teller.story()
    return " ".join(story), " ".join([teller.stock[0], *story, *teller.stock[1:3]])


def _update(teller: Teller) -> tuple[str, str]:
    """Return a story, and the same with later developments."""
    story = teller.story()
    return " ".join(story), " ".join([teller.sentence(), *story, teller.sentence()])


def _follow_up(teller: Teller) -> tuple[str, str]:
    """Return two stories, one of which has two background sentences from the other."""
    story = teller.story()
    return " ".join(story), " ".join([*teller.story(), *story[:2]])


def _form(teller: Teller, *, number: int) -> tuple[str, str]:
    form = teller.forms[number]
    return teller.filled(form), teller.filled(form)


def _stock(teller: Teller) -> tuple[str, str]:
    texts = [" ".join([teller.sentence(), teller.sentence(), *teller.stock[:4]]) for _ in range(2)]
    return texts[0], texts[1]


def _stranger(teller: Teller) -> tuple[str, str]:
    return " ".join(teller.story()), " ".join(teller.story())


_SAME: Mapping[str, Callable[[Teller], tuple[str, str]]] = {
    "copy": _copy,
    "excerpt": _excerpt,
    "edited": _edited,
    "boilerplate around it": _framed,
    "update of the story": _update,
}
_OTHER: Mapping[str, Callable[[Teller], tuple[str, str]]] = {
    "follow-up with background": _follow_up,
    "weekly notice": partial(_form, number=0),
    "offer": partial(_form, number=1),
    "weather": partial(_form, number=2),
    "match report": partial(_form, number=3),
    "stock text shared": _stock,
    "another story": _stranger,
}
KINDS: Mapping[str, bool] = {**dict.fromkeys(_SAME, True), **dict.fromkeys(_OTHER, False)}
"""Every kind of pair, and whether its texts are the same story."""


def hard_pairs(count: int, *, half: int, scripts: Iterable[str] = SCRIPTS) -> Iterator[HardPair]:
    """Yield pairs of each kind and script.

    Limits were tuned on half 0; half 1 is for the figures.
    """
    for script in scripts:
        teller = Teller(script, half)
        for kind, make in {**_SAME, **_OTHER}.items():
            for _ in range(count):
                one, other = make(teller)
                yield HardPair(script, kind, one, other, KINDS[kind])
