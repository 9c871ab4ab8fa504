"""A news wire: short news by outlet, topic, country, language and words.

The last day, or an archive.
"""

from datetime import date, timedelta
from enum import StrEnum
from typing import Annotated

from pydantic import Field, StringConstraints, model_validator

from glyptarch_core.item import Credit, Item
from glyptarch_core.platforms.model import Answer, Ask, Parameters, Platform, PlatformPage, Wider
from glyptarch_core.platforms.values import Row, loaded
from glyptarch_core.readers.model import identity_of, resolve, stated

__all__ = ["PLATFORMS"]

Name = Annotated[str, StringConstraints(strip_whitespace=True, max_length=60)]


class Span(StrEnum):
    """The news to read: the last 24 hours, or a range of days."""

    LATEST = "latest"
    ARCHIVE = "archive"


class WireParameters(Parameters):
    """Parameters of the news wire."""

    span: Span = Field(
        default=Span.LATEST, title="Which news", description="The last 24 hours, or an archive by dates."
    )
    begin: date | None = Field(default=None, title="From", description="First day of the archive.")
    end: date | None = Field(default=None, title="To", description="Last day of the archive.")
    outlet: Name = Field(default="", title="Outlet", description="Who wrote it; empty for all.")
    topic: Name = Field(default="", title="Topic", description="For example comets.")
    country: Annotated[str, StringConstraints(pattern=r"^$|^[a-z]{2}$")] = Field(
        default="", title="Country", description="Two letters (ISO 3166-1)."
    )
    language: Annotated[str, StringConstraints(pattern=r"^$|^[a-z]{2}$")] = Field(
        default="", title="Language", description="Two letters (ISO 639-1)."
    )

    @model_validator(mode="after")
    def _has_days(self) -> "WireParameters":
        if self.span is Span.ARCHIVE and (self.begin is None or self.end is None or self.begin > self.end):
            raise ValueError("an archive needs its first and its last day, in this order")
        return self


class Wire(Platform[WireParameters]):
    """The news wire."""

    key = "wire"
    name = "News wire"
    purpose = "Short news by topic, country, language and words."
    header = "X-Wire-Key"
    limit_a_day = 1000
    parameters = WireParameters

    def ask(self, parameters: WireParameters, words: str, cursor: str) -> Ask:
        """Ask for a page by its number."""
        query = {"q": words, "outlet": parameters.outlet, "topic": parameters.topic, "country": parameters.country}
        query |= {"lang": parameters.language, "page": cursor or "1"}
        if parameters.span is Span.ARCHIVE and parameters.begin and parameters.end:
            query |= {"from": parameters.begin.isoformat(), "to": parameters.end.isoformat()}
        path = "/latest" if parameters.span is Span.LATEST else "/archive"
        return Ask(path=path, query={name: value for name, value in query.items() if value})

    def read(self, answer: Answer, parameters: WireParameters, *, source: str, cursor: str) -> PlatformPage:
        """Read a page of news."""
        del parameters
        page = loaded(answer.body, answer.content_type)
        items = tuple(_item(row, answer.url, source) for row in page.required_list("stories") if row.text("headline"))
        number, last = int(cursor or 1), page.whole("pages") or 1
        following = str(number + 1) if items and number < last else ""
        return PlatformPage(items=items, next=following, total=page.whole("total"))

    def described(self, parameters: WireParameters) -> str:
        """Return the days as text."""
        if parameters.span is Span.LATEST:
            return "the last 24 hours"
        return f"the archive from {parameters.begin} to {parameters.end}"

    def wider(self, parameters: WireParameters, today: date) -> Wider | None:
        """Return the archive of the last month where the last day has nothing."""
        if parameters.span is not Span.LATEST:
            return None
        archive = {"span": Span.ARCHIVE, "begin": today - timedelta(days=_ARCHIVE_DAYS), "end": today}
        return Wider(f"the archive of the last {_ARCHIVE_DAYS} days", parameters.model_copy(update=archive))


_ARCHIVE_DAYS = 30


def _item(row: Row, base: str, source: str) -> Item:
    link, title = resolve(base, row.text("href")), row.plain("headline")
    outlet = row.text("outlet")
    return Item(
        source=source,
        identity=identity_of(row.text("id"), link, title, row.text("text")),
        link=link,
        title=title,
        summary=row.markup("standfirst"),
        body=row.markup("text"),
        authors=(row.text("byline"),) if row.text("byline") else (),
        categories=row.texts("topics"),
        published=row.moment("at"),
        language=row.text("lang").lower(),
        media=row.picture("photo", base),
        credit=Credit(title=outlet, link="") if outlet else None,
        facts=stated(country=row.text("country"), outlet=outlet),
        raw=row.value if isinstance(row.value, dict) else {},
    )


PLATFORMS = (Wire(),)
