"""A notes network: short notes by profile or hashtag.

A bold first line or the first sentence is the title.
"""

import re
from enum import StrEnum
from html import escape
from typing import Annotated

from pydantic import Field, StringConstraints, model_validator

from glyptarch_core.item import Item
from glyptarch_core.platforms.model import Answer, Ask, Parameters, Platform, PlatformPage, Secret, SignIn
from glyptarch_core.platforms.values import Row, loaded
from glyptarch_core.readers.links import linked
from glyptarch_core.readers.model import identity_of, resolve, stated
from glyptarch_core.text import Unit, cut, hashtags, plain_text
from glyptarch_core.text.markup import fragment
from glyptarch_core.text.words import MARKS

__all__ = ["PLATFORMS"]

_NAME = re.compile(rf"^[\w{MARKS}\u200c\u200d.@-]{{1,80}}$")


class NoteSource(StrEnum):
    """The notes to read: those of one profile, or those with a hashtag."""

    PROFILE = "profile"
    HASHTAG = "hashtag"


class NoteParameters(Parameters):
    """Parameters of the notes network."""

    of: NoteSource = Field(default=NoteSource.PROFILE, title="Notes of", description="A profile, or a hashtag.")
    name: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)] = Field(
        default="", title="Name", description="Of the profile or the hashtag, without # in front."
    )
    most: int = Field(default=40, ge=1, le=400, title="Notes at most", description="How far back it reads.")
    passed_on: bool = Field(
        default=False, title="Passed-on notes", description="Also notes of others that it passes on."
    )
    hashtags: bool = Field(default=True, title="Hashtags in the text", description="Untick it to take them out.")

    @model_validator(mode="after")
    def _is_named(self) -> "NoteParameters":
        if not _NAME.match(self.name.removeprefix("#")):
            raise ValueError("give the name of a profile or hashtag: letters, digits, and . _ - only")
        return self


class Notes(Platform[NoteParameters]):
    """The notes network."""

    key = "notes"
    name = "Notes network"
    purpose = "Short notes of a profile, or with a hashtag."
    sign_in = SignIn.OAUTH
    secrets = (Secret(name="client", label="Client id", hidden=False),)
    by_words = False
    parameters = NoteParameters

    def ask(self, parameters: NoteParameters, words: str, cursor: str) -> Ask:
        """Return the request for a page.

        The next page is named by the Link header.
        """
        del words
        kind = "people" if parameters.of is NoteSource.PROFILE else "tags"
        return Ask(path=cursor or f"/{kind}/{parameters.name.removeprefix('#')}/notes")

    def most_items(self, parameters: NoteParameters) -> int:
        """As far back as a person has chosen."""
        return parameters.most

    def read(self, answer: Answer, parameters: NoteParameters, *, source: str, cursor: str) -> PlatformPage:
        """Read a page of notes."""
        del cursor
        rows = loaded(answer.body, answer.content_type).required_list("")
        chosen = [row for row in rows if parameters.passed_on or not row.at("passed_on_from").value]
        items = tuple(_item(row, answer.url, source, parameters) for row in chosen if row.text("html"))
        return PlatformPage(items=items, next=linked(answer.link, "next", answer.url) if rows else "")


_HASHTAG_LINK = re.compile(rf"(?:<a\b[^<>]{{0,400}}>)?#[\w{MARKS}\u200c\u200d-]{{1,80}}(?:</a>)?")


def _title(markup: str) -> str:
    """Return the first line where it is bold, else the first sentence."""
    root = fragment(markup)
    bold = next((element for element in root.iter("b", "strong")), None)
    if bold is not None:
        said = " ".join("".join(bold.itertext()).split())
        if said and plain_text(markup).lstrip().startswith(said):
            return said[:300]
    text = " ".join(plain_text(markup).split())
    sentence = _SENTENCE.match(text)
    return sentence[1] if sentence else cut([text], unit=Unit.WORDS, count=_TITLE_WORDS)


_TITLE_WORDS = 14
# Scripts without spaces between sentences, and those that end them with a danda.
_SENTENCE = re.compile(r"^(.{10,140}?(?:[.!?…।॥؟۔](?=\s|$)|[。！？]))", re.DOTALL)


def _item(row: Row, base: str, source: str, parameters: NoteParameters) -> Item:
    markup, link, writer = row.lines("html"), row.at("url").address(base), row.at("author")
    tags = tuple(dict.fromkeys([*row.texts("tags"), *hashtags(plain_text(markup))]))
    if not parameters.hashtags:
        markup = _HASHTAG_LINK.sub("", markup)
    media = tuple(
        medium
        for picture in row.rows("media")
        if picture.text("type") == "picture"
        for medium in picture.picture("", base)
    )
    first = row.at("passed_on_from")
    return Item(
        source=source,
        identity=identity_of(row.text("id"), link, "", markup),
        link=link,
        title=_title(markup),
        body=markup if "<" in markup else f"<p>{escape(markup)}</p>",
        authors=(writer.text("name") or writer.text("handle"),) if writer.text("name") or writer.text("handle") else (),
        categories=tags,
        published=row.moment("at"),
        media=media,
        facts=stated(
            reshares=row.text("reshares"),
            author_site=resolve(base, writer.text("url")),
            passed_on_from=first.text("author.name"),
        ),
        raw=row.value if isinstance(row.value, dict) else {},
    )


PLATFORMS = (Notes(),)
