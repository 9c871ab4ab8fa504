"""An article directory: whole articles by search words, each with a box about its author."""

from html import escape
from typing import Annotated

from pydantic import Field, StringConstraints

from glyptarch_core.item import Item
from glyptarch_core.platforms.model import Answer, Ask, Parameters, Platform, PlatformPage
from glyptarch_core.platforms.values import Row, loaded
from glyptarch_core.readers.model import identity_of, resolve, stated

__all__ = ["PLATFORMS"]


class ArticleParameters(Parameters):
    """Parameters of the article directory."""

    category: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)] = Field(
        default="", title="Category", description="Only articles of this category."
    )
    author_box: bool = Field(
        default=True, title="Author box", description="What is said of the author, below the text."
    )
    least_words: int = Field(default=0, ge=0, le=20_000, title="Words at least", description="Shorter ones are left.")


class Articles(Platform[ArticleParameters]):
    """The article directory."""

    key = "articles"
    name = "Article directory"
    purpose = "Whole articles for given words, with author boxes."
    header = "X-Directory-Key"
    limit_a_day = 500
    parameters = ArticleParameters

    def ask(self, parameters: ArticleParameters, words: str, cursor: str) -> Ask:
        """Ask for a page by its number."""
        query = {"words": words, "category": parameters.category, "page": cursor or "1"}
        return Ask(path="/articles", query={name: value for name, value in query.items() if value})

    def read(self, answer: Answer, parameters: ArticleParameters, *, source: str, cursor: str) -> PlatformPage:
        """Read a page of articles."""
        page = loaded(answer.body, answer.content_type)
        rows = page.required_list("articles")
        long_enough = [
            row for row in rows if row.text("title") and (row.number("words") or 0) >= parameters.least_words
        ]
        items = tuple(_item(row, answer.url, source, box=parameters.author_box) for row in long_enough)
        number = int(cursor or 1)
        return PlatformPage(items=items, next=str(number + 1) if rows and number < (page.whole("pages") or 1) else "")


def _item(row: Row, base: str, source: str, *, box: bool) -> Item:
    link, title, author = resolve(base, row.text("link")), row.plain("title"), row.at("author")
    name, about = author.text("name"), author.plain("about")
    boxed = f"<p><strong>{escape(name)}</strong> {escape(about)}</p>" if box and name and about else ""
    return Item(
        source=source,
        identity=identity_of(row.text("id"), link, title, ""),
        link=link,
        title=title,
        body=row.markup("html") + boxed,
        authors=(name,) if name else (),
        categories=(row.text("category"),) if row.text("category") else (),
        published=row.moment("published"),
        facts=stated(author_site=resolve(base, author.text("site"))),
        raw=row.value if isinstance(row.value, dict) else {},
    )


PLATFORMS = (Articles(),)
