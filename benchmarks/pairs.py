"""A labelled set of made-up text pairs: the same story, or not. Deterministic from a seed."""

import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass

__all__ = ["Pair", "labelled_pairs", "story"]

_SYLLABLES = "ba ce di fo gu ha ki lo mu ne pa ro si ta ve wi zo bra cle dri flo gre pli sko tra vel".split()
_SMALL = (
    "the a of to and in that it was for on with as at by from this but had were which or an be not they more when "
    "one all there who out so up into than then some time could them other its over no after two before"
).split()
_STOCK = (
    "Read on at the club’s own site for pictures and the full account.",
    "Members receive this letter by post at the start of each month.",
    "The views of writers are their own and not those of the club.",
    "Share this with friends who may like it, and come back soon.",
)
_MONTHS = "January March April June July September October December".split()
_DAYS = "Monday Tuesday Wednesday Thursday Friday Saturday Sunday".split()


@dataclass(frozen=True, slots=True)
class Pair:
    """Two texts, whether they are the same story, and how the second was made."""

    one: str
    other: str
    same: bool
    how: str


def _lexicon(rng: random.Random, size: int) -> list[str]:
    return ["".join(rng.choices(_SYLLABLES, k=rng.randint(2, 4))) for _ in range(size)]


class _Writer:
    def __init__(self, seed: int) -> None:
        self.rng = random.Random(seed)  # noqa: S311 - made-up texts
        self.common = _lexicon(self.rng, 900)
        self.topics = [_lexicon(self.rng, 140) for _ in range(30)]
        self.names = [word.capitalize() for word in _lexicon(self.rng, 400)]

    def sentence(self, topic: list[str]) -> str:
        rng, words = self.rng, []
        for _ in range(rng.randint(7, 20)):
            kind = rng.random()
            if kind < 0.42:
                words.append(rng.choice(_SMALL))
            elif kind < 0.68:
                words.append(self.common[int(rng.random() ** 2.2 * len(self.common))])
            elif kind < 0.93:
                words.append(topic[int(rng.random() ** 1.6 * len(topic))])
            elif kind < 0.97:
                words.append(rng.choice(self.names))
            else:
                words.append(str(rng.randint(2, 990)))
        return " ".join(words).capitalize().replace(" i ", " I ") + "."

    def paragraphs(self, topic: list[str], count: int) -> list[str]:
        return [" ".join(self._named(topic) for _ in range(self.rng.randint(2, 5))) for _ in range(count)]

    def _named(self, topic: list[str]) -> str:
        first = self.sentence(topic)
        return first[:-1] + f" {self.rng.choice(_SMALL)} {self.rng.choice(self.names)}."

    def topic(self) -> list[str]:
        return self.rng.choice(self.topics)

    def notice(self, facts: dict[str, str]) -> str:
        return (
            f"The watch meets on {facts['day']} {facts['date']} {facts['month']} at {facts['place']}, and the gate opens at "
            f"{facts['hour']}. Bring a chair, a red torch and warm shoes. {facts['person']} will show how to find the bright "
            f"stars of the season with {facts['thing']}. Tea costs {facts['price']} a cup, and children come in free. If the "
            f"sky is shut the evening moves to the hall at {facts['hall']}, where {facts['other']} talks about mirrors. "
            f"Please tell us by {facts['answer']} whether you come, so that there is enough to drink for all."
        )

    def facts(self) -> dict[str, str]:
        rng = self.rng
        return {
            "day": rng.choice(_DAYS), "date": str(rng.randint(1, 30)), "month": rng.choice(_MONTHS),
            "place": rng.choice(self.names), "hour": f"{rng.randint(17, 22)}:{rng.randint(10, 59)}",
            "person": f"{rng.choice(self.names)} {rng.choice(self.names)}", "thing": f"the {rng.choice(self.names)}",
            "price": f"{rng.randint(1, 9)}.{rng.randint(10, 99)}", "hall": rng.choice(self.names),
            "other": rng.choice(self.names), "answer": f"{rng.choice(_MONTHS)} {rng.randint(1, 30)}",
        }  # fmt: skip

    def product(self, facts: dict[str, str]) -> str:
        return (
            f"The {facts['name']} {facts['size']} reflector comes with a mount of beech, two eyepieces and a case. Its mirror "
            f"has {facts['size']} across and a focal length of {facts['focal']}, and gathers {facts['gain']} times the light "
            f"of the eye. It weighs {facts['weight']} and stands {facts['height']} high. Order number {facts['order']}. It is "
            f"sent within {facts['days']} days, and costs {facts['price']} with all that is in the picture. The warranty "
            f"runs for {facts['years']} years from the day of sale."
        )

    def size(self, name: str) -> dict[str, str]:
        rng = self.rng
        return {
            "name": name, "size": f"{rng.randint(70, 400)} mm", "focal": f"{rng.randint(400, 2000)} mm",
            "gain": str(rng.randint(60, 3000)), "weight": f"{rng.randint(2, 40)}.{rng.randint(1, 9)} kg",
            "height": f"{rng.randint(60, 190)} cm", "order": f"{rng.randint(1000, 9999)}", "days": str(rng.randint(2, 20)),
            "price": f"{rng.randint(80, 2000)}.00", "years": str(rng.randint(2, 9)),
        }  # fmt: skip


def story(writer: _Writer) -> list[str]:
    """Return the paragraphs of a new story."""
    return writer.paragraphs(writer.topic(), writer.rng.randint(3, 8))


def _edited(writer: _Writer, text: str, share: float) -> str:
    words = text.split()
    for _ in range(round(len(words) * share)):
        at = writer.rng.randrange(len(words))
        action = writer.rng.random()
        if action < 0.6:
            words[at] = writer.rng.choice(writer.common)
        elif action < 0.8 and len(words) > 5:
            del words[at]
        else:
            words.insert(at, writer.rng.choice(_SMALL))
    return " ".join(words)


def _same(writer: _Writer) -> Iterator[Callable[[], Pair]]:
    def copy() -> Pair:
        text = "\n".join(story(writer))
        return Pair(text, text, same=True, how="a copy")

    def edited() -> Pair:
        text, share = "\n".join(story(writer)), writer.rng.uniform(0.01, 0.10)
        return Pair(text, _edited(writer, text, share), same=True, how=f"{share:.0%} of words edited")

    def framed() -> Pair:
        text = "\n".join(story(writer))
        frame = writer.rng.sample(_STOCK, 3)
        return Pair(text, f"{frame[0]}\n{text}\n{frame[1]} {frame[2]}", same=True, how="boilerplate around it")

    def cut() -> Pair:
        text = " ".join(story(writer)).split()
        kept = writer.rng.uniform(0.5, 0.95)
        return Pair(" ".join(text), " ".join(text[: int(len(text) * kept)]), same=True, how=f"cut to {kept:.0%}")

    def reordered() -> Pair:
        parts = story(writer)
        other = list(parts)
        writer.rng.shuffle(other)
        return Pair("\n".join(parts), "\n".join(other), same=True, how="paragraphs in another order")

    def cut_and_edited() -> Pair:
        text = " ".join(story(writer))
        words = _edited(writer, text, 0.06).split()
        return Pair(text, " ".join(words[: len(words) * 3 // 5]), same=True, how="cut to 60% and 6% edited")

    while True:
        yield from (copy, edited, framed, cut, reordered, cut_and_edited, edited, cut)


def _different(writer: _Writer) -> Iterator[Callable[[], Pair]]:
    def topic() -> Pair:
        words = writer.topic()
        texts = ["\n".join(writer.paragraphs(words, writer.rng.randint(3, 8))) for _ in range(2)]
        return Pair(texts[0], texts[1], same=False, how="same topic, another story")

    def notice() -> Pair:
        return Pair(writer.notice(writer.facts()), writer.notice(writer.facts()), same=False, how="notice, other facts")

    def product() -> Pair:
        name = writer.rng.choice(writer.names)
        one, other = writer.product(writer.size(name)), writer.product(writer.size(name))
        return Pair(one, other, same=False, how="product, other size")

    def stock() -> Pair:
        frame = writer.rng.sample(_STOCK, 2)
        texts = [
            f"{writer.sentence(writer.topic())} {writer.sentence(writer.topic())} {' '.join(frame)}" for _ in range(2)
        ]
        return Pair(texts[0], texts[1], same=False, how="short, stock phrases shared")

    def stranger() -> Pair:
        return Pair("\n".join(story(writer)), "\n".join(story(writer)), same=False, how="another story")

    while True:
        yield from (topic, notice, product, stock, stranger)


def labelled_pairs(count: int, *, seed: int = 7) -> list[Pair]:
    """Return pairs, half of them the same story."""
    writer = _Writer(seed)
    same, different = _same(writer), _different(writer)
    return [next(same if number % 2 else different)() for number in range(count)]
