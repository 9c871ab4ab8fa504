"""The records of the invented platforms about a story."""

import re
from datetime import UTC, datetime, timedelta
from typing import Any

from glyptarch_standins.bank import PEOPLE
from glyptarch_standins.stories import Story, site_named

__all__ = [
    "country_of",
    "film",
    "is_sold",
    "licence_of",
    "most_relevant",
    "plays_of",
    "priced_in",
    "product",
    "question",
    "seconds_of",
    "short_note",
    "stamp",
    "title_of",
    "votes_of",
    "with_words",
]


def stamp(at: datetime) -> str:
    """Write a moment as the platforms do (RFC 3339, UTC)."""
    return at.strftime("%Y-%m-%dT%H:%M:%SZ")


def with_words(stories: list[Story], words: str) -> list[Story]:
    """Return the stories with all of some words."""
    wanted = words.lower().split()
    return [one for one in stories if all(word in f"{one.title} {' '.join(one.paragraphs)}".lower() for word in wanted)]


def most_relevant(stories: list[Story], words: str) -> list[Story]:
    """Return stories by how often some words occur in them, most often first."""
    wanted = words.lower().split()
    return sorted(
        stories, key=lambda one: -sum(" ".join((one.title, *one.paragraphs)).lower().count(word) for word in wanted)
    )


def country_of(story: Story) -> str:
    """Return the invented country in which a story was written."""
    return "ov" if story.site == "meadowlark" else "or"


def title_of(site: str) -> str:
    """Return the title of a site."""
    found = site_named(site)
    return found.title if found else site


def plays_of(story: Story) -> int:
    """Return the number of views of a story's film."""
    return story.number * 137 % 9000 + 40


def licence_of(story: Story) -> str:
    """Return the licence of a story's film."""
    return "cc-by" if story.number % 3 == 0 else "all rights reserved"


# Seconds for each sentence of a film: short ones, middling ones, and talks.
_PACES = (8, 40, 150)


def _sentences(story: Story) -> list[str]:
    return [part for paragraph in story.paragraphs for part in paragraph.split(". ")]


def seconds_of(story: Story) -> int:
    """Return the length of a story's film in seconds."""
    return len(_sentences(story)) * _PACES[story.number % len(_PACES)]


def film(story: Story) -> dict[str, object]:
    """Return the film platform's record of a story."""
    said = _sentences(story)
    cues = "\n\n".join(
        f"{place + 1}\n00:{place // 12:02}:{place % 12 * 5:02}.000 --> 00:{place // 12:02}:{place % 12 * 5 + 4:02}.000\n"
        f"{part.rstrip('.')}."
        for place, part in enumerate(said)
    )
    return {
        "uid": f"f{story.site[:2]}{story.number}",
        "name": story.title,
        "about": f"{story.paragraphs[0]}\n\n0:00 Beginning\n1:20 The sky",
        "posted": stamp(story.at),
        "seconds": seconds_of(story),
        "plays": plays_of(story),
        "licence": licence_of(story),
        "language": "en",
        "tags": list(story.categories),
        "ratio": 1.7778,
        "page": f"/{story.site}/notes/{story.number}",
        "player": f"/player/{story.site}-{story.number}",
        "still": {"url": f"/pictures/{story.page_picture or 'stars-1.jpg'}", "width": 1200, "height": 675},
        "maker": {"name": title_of(story.site), "place": "Vale of Orrin", "site": f"/{story.site}/", "followers": 412},
        "captions": [{"language": "en", "text": f"WEBVTT\n\n{cues}"}] if story.number % 4 else [],
    }


_PRICE = re.compile(r"\d+\.\d\d")


_SALES = (0.12, 0.12, 0.06)
_SALE_TURNS, _STOCK_TURNS = 9, 7
_SOLD_FOR = timedelta(days=20)
_REPLACED_AFTER = timedelta(weeks=2)


def _price_of(story: Story, now: datetime) -> tuple[float, float | None]:
    """Return the price of a story's product at a time, and the one before a sale.

    A price that the story names stays, so that the record does not contradict it. Others are reduced for some hours.
    """
    named = _PRICE.search(f"{story.title} {story.paragraphs[0]}")
    if named:
        return float(named[0]), None
    usual = float(20 + story.number * 7 % 400)
    turn = (int(now.timestamp()) // 6 // 3600 + story.number * 5) % _SALE_TURNS
    return (round(usual * (1 - _SALES[turn]), 2), usual) if turn < len(_SALES) else (usual, None)


def is_sold(story: Story, now: datetime) -> bool:
    """Whether the shop still has the product of a story: some are taken off after three weeks."""
    return story.number % 19 != 0 or now - story.at < _SOLD_FOR


_SAID = (
    "Does what it says, and the case closes with gloves on.",
    "Good glass. The strap is too short for a winter coat.",
    "It came with a scratch on the barrel; the shop exchanged it within a week.",
    "Fine for a first winter. I would take the larger one today.",
)


def _photos(story: Story) -> list[str]:
    """Return the pictures of a story's product: two more of those that have one."""
    return [story.picture, *(f"silhouette-{story.number % 7 + more}.jpg" for more in (1, 2))] if story.picture else []


_CATEGORIES = {
    "eyepiece": "Eyepieces",
    "tripod": "Tripods",
    "counterweight": "Mounts",
    "bracket": "Mounts",
    "heater": "Heaters",
    "telescope": "Telescopes",
}


def _category_of(story: Story) -> str:
    """Return the shelf of the shop on which a story's product stands."""
    title = story.title.lower()
    return next((shelf for word, shelf in _CATEGORIES.items() if word in title), "Other gear")


def product(story: Story, now: datetime) -> dict[str, Any]:
    """Return the shop's record of a story at a time: its clock changes prices and stock."""
    price, before = _price_of(story, now)
    stock = (int(now.timestamp()) // 12 // 3600 + story.number) % _STOCK_TURNS
    return {
        "number": f"G-{1000 + story.number}",
        "title": story.title,
        "description": story.paragraphs[0],
        "features": ["Ground and polished by hand", f"{30 + story.number % 5 * 10} mm"],
        "photos": [{"url": f"/pictures/{name}"} for name in _photos(story)],
        "category": _category_of(story),
        "stars": round(3 + story.number % 20 / 10, 1),
        "reviews": [
            {"who": PEOPLE[(story.number + place) % len(PEOPLE)], "stars": 5 - place, "text": text}
            for place, text in enumerate(_SAID[story.number % 2 :][:3])
        ],
        "ratings": 3 + story.number * 11 % 80,
        "condition": "used" if story.number % 8 == 0 else "new",
        "price": {"amount": price, "currency": "EUR", "before": before},
        "stock": "in" if story.title.startswith("In stock") or stock > 1 else ("out", "soon")[stock],
        "listed": stamp(story.at),
        "link": f"/glasswright/notes/{story.number}",
        "replaced_by": f"G-{1001 + story.number}"
        if story.number % 19 == 0 and now - story.at > _REPLACED_AFTER
        else None,
    }


# The currency of each region, and what a euro costs there; “or” is the vale itself.
_REGIONS = {"": ("EUR", 1.0), "or": ("EUR", 1.0), "gb": ("GBP", 0.86), "us": ("USD", 1.09), "jp": ("JPY", 168.0)}


def priced_in(record: dict[str, Any], region: str) -> dict[str, Any] | None:
    """Return a product with the price of a region.

    None where the shop sells nothing.
    """
    if region not in _REGIONS:
        return None
    currency, rate = _REGIONS[region]
    places = 0 if currency == "JPY" else 2
    price = record["price"]
    before = None if price["before"] is None else round(price["before"] * rate, places)
    return record | {"price": {"amount": round(price["amount"] * rate, places), "currency": currency, "before": before}}


def short_note(story: Story) -> dict[str, object]:
    """Return the notes network's record of a story."""
    tags = [category.replace(" ", "") for category in story.categories]
    shown = " ".join(f"#{tag}" for tag in tags)
    first = f"<p><strong>{story.title}</strong></p>" if story.number % 2 else ""
    passed_on = {"author": {"name": "Skywire Dispatch"}} if story.number % 5 == 0 else None
    return {
        "id": f"n{story.site}{story.number}",
        "html": f"{first}<p>{story.paragraphs[0]} {shown}</p>",
        "at": stamp(story.at),
        "tags": tags,
        "reshares": story.number % 30,
        "author": {"name": title_of(story.site), "handle": story.site, "url": f"/{story.site}/"},
        "url": f"/{story.site}/notes/{story.number}",
        "media": [{"type": "picture", "url": f"/pictures/{story.picture}", "alt": "The sky"}] if story.picture else [],
        "passed_on_from": passed_on,
    }


def votes_of(story: Story) -> int:
    """Return the votes for a story's question."""
    return story.number % 40


_UNANSWERED = 11


def question(story: Story) -> dict[str, object]:
    """Return the question board's record of a story."""
    answers = [
        {
            "body": part,
            "by": PEOPLE[(story.number + place) % len(PEOPLE)],
            "votes": 10 - 3 * place,
            "accepted": place == 1,
        }
        for place, part in enumerate(story.paragraphs[1:4] if story.number % _UNANSWERED else ())
    ]
    return {
        "id": f"q{story.site}{story.number}",
        "title": f"{story.title}?",
        "body": story.paragraphs[0],
        "asked_at": stamp(story.at.astimezone(UTC)),
        "by": story.author,
        "tags": list(story.categories),
        "votes": votes_of(story),
        "answers": answers,
        "link": f"/{story.site}/notes/{story.number}",
    }
