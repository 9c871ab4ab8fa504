"""A film platform: films by words, channel or playlist, with captions as text."""

from datetime import date
from enum import StrEnum
from typing import Annotated

from pydantic import Field, StringConstraints

from glyptarch_core.item import Item
from glyptarch_core.platforms.model import Answer, Ask, Parameters, Platform, PlatformPage, Secret, SignIn
from glyptarch_core.platforms.values import Row, loaded
from glyptarch_core.readers.model import identity_of, resolve, stated
from glyptarch_core.text.captions import captions_as_html

__all__ = ["PLATFORMS"]

Name = Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)]


class FilmOrder(StrEnum):
    """In which order films come."""

    RELEVANT = "relevant"
    NEWEST = "newest"
    MOST_SEEN = "most_seen"


class FilmLength(StrEnum):
    """The length of a film: under 4 minutes, 4 to 20, or longer."""

    ANY = "any"
    SHORT = "short"
    MEDIUM = "medium"
    LONG = "long"


class FilmParameters(Parameters):
    """Parameters of the film platform."""

    channel: Name = Field(default="", title="Channel", description="Only films of this channel.")
    playlist: Name = Field(default="", title="Playlist", description="Only films of this playlist.")
    order: FilmOrder = Field(default=FilmOrder.NEWEST, title="Order", description="Which films come first.")
    licence: Name = Field(default="", title="Licence", description="For example cc-by; empty for any.")
    length: FilmLength = Field(default=FilmLength.ANY, title="Length", description="Short is under 4 minutes.")
    least_views: int = Field(default=0, ge=0, le=10**9, title="Views at least", description="How often it was seen.")
    language: Annotated[str, StringConstraints(pattern=r"^$|^[a-z]{2}$")] = Field(
        default="", title="Language", description="Two letters (ISO 639-1)."
    )
    since: date | None = Field(default=None, title="Published after", description="Only films after this day.")
    captions: bool = Field(
        default=True, title="Captions as text", description="Puts what is said below the description."
    )


class Films(Platform[FilmParameters]):
    """The film platform."""

    key = "films"
    name = "Film platform"
    purpose = "Films by words, channel or playlist, with captions as text."
    sign_in = SignIn.BEARER
    secrets = (Secret(name="token", label="Token"),)
    limit_a_day = 1000
    parameters = FilmParameters

    def ask(self, parameters: FilmParameters, words: str, cursor: str) -> Ask:
        """Ask for a page by the cursor of the one before."""
        query = {
            "words": words,
            "channel": parameters.channel,
            "playlist": parameters.playlist,
            "order": parameters.order.value,
        }
        query |= {"licence": parameters.licence, "lang": parameters.language, "after": cursor}
        query["min_views"] = str(parameters.least_views) if parameters.least_views else ""
        query["length"] = parameters.length.value if parameters.length is not FilmLength.ANY else ""
        query["since"] = parameters.since.isoformat() if parameters.since else ""
        return Ask(path="/v1/films", query={name: value for name, value in query.items() if value})

    def read(self, answer: Answer, parameters: FilmParameters, *, source: str, cursor: str) -> PlatformPage:
        """Read a page of films."""
        del cursor
        page = loaded(answer.body, answer.content_type)
        rows = [row for row in page.required_list("films") if row.text("name")]
        items = tuple(_item(row, answer.url, source, with_captions=parameters.captions) for row in rows)
        return PlatformPage(items=items, next=page.text("next") if items else "", total=page.whole("found"))

    def check(self) -> Ask | None:
        """Ask who we are."""
        return Ask(path="/v1/me")


def _item(row: Row, base: str, source: str, *, with_captions: bool) -> Item:
    link, title, maker = resolve(base, row.text("page")), row.plain("name"), row.at("maker")
    said = next((text for caption in row.rows("captions") if (text := captions_as_html(caption.lines("text")))), "")
    player = resolve(base, row.text("player"))
    return Item(
        source=source,
        identity=identity_of(row.text("uid"), link, title, ""),
        link=link,
        title=title,
        summary=row.markup("about"),
        body=row.markup("about") + (said if with_captions else ""),
        authors=(maker.text("name"),) if maker.text("name") else (),
        categories=row.texts("tags"),
        published=row.moment("posted"),
        language=row.text("language").lower(),
        media=row.picture("still", base, alt=title),
        facts=stated(
            views=row.number("plays"),
            length=row.number("seconds"),
            licence=row.text("licence"),
            media_id=row.text("uid"),
            player=player,
            ratio=row.text("ratio"),
            author_place=maker.text("place"),
            author_site=resolve(base, maker.text("site")),
            author_followers=maker.text("followers"),
            has_captions="yes" if said else "no",
        ),
        raw=row.value if isinstance(row.value, dict) else {},
    )


PLATFORMS = (Films(),)
