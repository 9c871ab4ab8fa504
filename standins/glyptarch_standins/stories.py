"""The stories of each source up to a moment."""

import random
import re
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from glyptarch_standins.bank import LEADS, PEOPLE, SLOTS, TAILS, TOPICS

__all__ = ["SITES", "UNLISTED", "Site", "Story", "site_named", "stories_up_to", "story_by_number"]

_FIRST_DAY = datetime(2026, 1, 1, tzinfo=UTC)
_SLOT = re.compile(r"\{(\w+)\}")


@dataclass(frozen=True, slots=True, kw_only=True)
class Site:
    """An invented source. ``every`` is the mean time between two of its stories."""

    name: str
    title: str
    tagline: str
    format: str
    every: timedelta
    topics: tuple[str, ...]
    paragraphs: tuple[int, int]
    in_feed: int
    repeats: tuple[str, ...] = ()
    language: str = "en"


SITES = (
    Site(
        name="meadowlark",
        title="Meadowlark Club",
        tagline="Watching the sky from the meadows of the Vale of Orrin",
        format="rss",
        every=timedelta(hours=9),
        topics=("meteors", "comets", "nights", "nights", "business", "gear"),
        paragraphs=(2, 8),
        in_feed=25,
    ),
    Site(
        name="observatory",
        title="Orrin Observatory",
        tagline="Bulletin of the observatory on Orrin ridge",
        format="atom",
        every=timedelta(hours=17),
        topics=("comets", "dome", "meteors", "dome"),
        paragraphs=(3, 9),
        in_feed=20,
    ),
    Site(
        name="skywire",
        title="Skywire Dispatch",
        tagline="Short news of the night, all day",
        format="json",
        every=timedelta(hours=5),
        topics=("tonight", "meteors", "comets", "gear", "business", "tonight"),
        paragraphs=(1, 3),
        in_feed=40,
        repeats=("meadowlark", "observatory"),
    ),
    Site(
        name="listings",
        title="Vale Listings",
        tagline="What is on in the Vale of Orrin",
        format="rdf",
        every=timedelta(hours=20),
        topics=("nights", "business"),
        paragraphs=(1, 2),
        in_feed=15,
    ),
    Site(
        name="glasswright",
        title="Glasswright shop notes",
        tagline="Optics, mended and new",
        format="rss",
        every=timedelta(hours=30),
        topics=("gear",),
        paragraphs=(1, 4),
        in_feed=12,
    ),
)


UNLISTED = (
    Site(
        name="ridgefilms",
        title="Ridge films",
        tagline="Films of the night from Orrin ridge",
        format="rss",
        every=timedelta(hours=15),
        topics=("comets", "dome", "nights", "meteors"),
        paragraphs=(2, 4),
        in_feed=20,
    ),
    Site(
        name="ridgecast",
        title="Ridge talk",
        tagline="A quarter of an hour on the night sky",
        format="rss",
        every=timedelta(hours=70),
        topics=("dome", "comets", "meteors"),
        paragraphs=(3, 5),
        in_feed=12,
    ),
)
"""Sites with feeds of their own making, or none."""


def site_named(name: str) -> Site | None:
    """Return a site by its name."""
    return next((site for site in (*SITES, *UNLISTED) if site.name == name), None)


@dataclass(frozen=True, slots=True, kw_only=True)
class Story:
    """One story of a site. ``repeat_of`` names the site and number of the story it passes on."""

    site: str
    number: int
    at: datetime
    title: str
    paragraphs: tuple[str, ...]
    author: str
    categories: tuple[str, ...]
    picture: str
    footer: str
    repeat_of: tuple[str, int] | None = None

    @property
    def page_picture(self) -> str:
        """The picture on its page: now and then there is one where the feed names none."""
        return self.picture or (f"stars-{self.number}.jpg" if self.number % 2 == 0 else "")


def _random(seed: int, *what: object) -> random.Random:
    return random.Random(":".join(str(part) for part in (seed, *what)))  # noqa: S311 - invented stories


def _moment(site: Site, number: int, seed: int) -> datetime:
    jitter = _random(seed, site.name, number, "at").uniform(-0.4, 0.4)
    return (_FIRST_DAY + site.every * (number + jitter)).replace(microsecond=0)


def _fill(text: str, rng: random.Random) -> str:
    def one(match: re.Match[str]) -> str:
        name = match.group(1)
        return rng.choice(PEOPLE) if name == "person" else rng.choice(SLOTS[name])

    filled = _SLOT.sub(one, text)
    return filled[0].upper() + filled[1:]


def _varied(sentence: str, rng: random.Random) -> str:
    """Return a stock sentence with another beginning or end, as different writers would use."""
    if rng.random() < 0.55 and not sentence.startswith("{person}"):
        sentence = f"{rng.choice(LEADS)}, {sentence[0].lower()}{sentence[1:]}"
    if rng.random() < 0.55:
        sentence = f"{sentence.removesuffix('.')}, {rng.choice(TAILS)}."
    return sentence


def _paragraphs(topic: str, length: int, rng: random.Random) -> tuple[str, ...]:
    stock = list(TOPICS[topic].sentences)
    paragraphs: list[str] = []
    for _ in range(length):
        rng.shuffle(stock)
        paragraphs.append(" ".join(_fill(_varied(sentence, rng), rng) for sentence in stock[: rng.randint(2, 5)]))
    return tuple(paragraphs)


def _picture(topic: str, rng: random.Random) -> str:
    kind = TOPICS[topic].picture
    return "" if kind == "none" or rng.random() < 0.18 else f"{kind}-{rng.randrange(10_000)}.jpg"


def _footer(site: Site, rng: random.Random) -> str:
    if rng.random() < 0.3:
        return f"Originally posted on the site of {site.title}."
    return ""


def story_by_number(site: Site, number: int, seed: int) -> Story:
    """Return one story of a site."""
    at = _moment(site, number, seed)
    if site.repeats and number % 5 == 2:
        repeat = _repeat(site, number, at, seed)
        if repeat is not None:
            return repeat
    rng = _random(seed, site.name, number)
    topic = rng.choice(site.topics)
    length = 1 if rng.random() < 0.12 else rng.randint(*site.paragraphs)
    return Story(
        site=site.name,
        number=number,
        at=at,
        title=_fill(rng.choice(TOPICS[topic].titles), rng),
        paragraphs=_paragraphs(topic, length, rng),
        author=rng.choice(PEOPLE) if site.format != "rdf" else "",
        categories=TOPICS[topic].categories,
        picture=_picture(topic, rng),
        footer=_footer(site, rng),
    )


def _repeat(site: Site, number: int, at: datetime, seed: int) -> Story | None:
    rng = _random(seed, site.name, number, "repeat")
    origin = site_named(rng.choice(site.repeats))
    if origin is None:
        return None
    latest = [story for story in stories_up_to(origin, at - timedelta(hours=1), seed, count=2) if not story.repeat_of]
    if not latest:
        return None
    first = rng.choice(latest)
    return Story(
        site=site.name,
        number=number,
        at=at,
        title=first.title if rng.random() < 0.6 else f"{first.title} – {origin.title}",
        paragraphs=first.paragraphs[:1],
        author="",
        categories=first.categories,
        picture=first.picture,
        footer="",
        repeat_of=(origin.name, first.number),
    )


def stories_up_to(site: Site, now: datetime, seed: int, *, count: int | None = None) -> list[Story]:
    """Return the newest stories of a site published by a moment, newest first."""
    newest = int((now - _FIRST_DAY) / site.every) + 2
    wanted = count or site.in_feed
    found: list[Story] = []
    for number in range(newest, -1, -1):
        if _moment(site, number, seed) <= now:
            found.append(story_by_number(site, number, seed))
        if len(found) == wanted:
            break
    return sorted(found, key=lambda story: story.at, reverse=True)
