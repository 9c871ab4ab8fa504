"""A question board: questions with their answers, as pairs."""

from enum import StrEnum
from html import escape

from pydantic import Field

from glyptarch_core.item import Item
from glyptarch_core.platforms.model import Answer, Ask, Parameters, Platform, PlatformPage
from glyptarch_core.platforms.values import Row, loaded
from glyptarch_core.readers.model import identity_of, resolve, stated

__all__ = ["PLATFORMS"]


class QuestionOrder(StrEnum):
    """In which order questions come."""

    NEWEST = "newest"
    MOST_VOTES = "most_votes"


class QuestionParameters(Parameters):
    """Parameters of the question board."""

    order: QuestionOrder = Field(default=QuestionOrder.NEWEST, title="Order", description="Which questions come first.")
    answered: bool = Field(
        default=True, title="Only answered ones", description="Leaves out questions without an answer."
    )
    answers: int = Field(
        default=3, ge=1, le=20, title="Answers at most", description="The best answers of each question."
    )


class Questions(Platform[QuestionParameters]):
    """The question board."""

    key = "questions"
    name = "Question board"
    purpose = "Questions and their answers for given words."
    header = "X-Board-Key"
    limit_a_day = 500
    parameters = QuestionParameters

    def ask(self, parameters: QuestionParameters, words: str, cursor: str) -> Ask:
        """Ask for a page by its number."""
        query = {"words": words, "order": parameters.order.value, "page": cursor or "1"}
        return Ask(path="/questions", query={name: value for name, value in query.items() if value})

    def read(self, answer: Answer, parameters: QuestionParameters, *, source: str, cursor: str) -> PlatformPage:
        """Read a page of questions."""
        page = loaded(answer.body, answer.content_type)
        rows = page.required_list("questions")
        kept_items = [_item(row, answer.url, source, parameters.answers) for row in rows if row.text("title")]
        items = tuple(item for item in kept_items if not parameters.answered or item.facts["answers"] != "0")
        more = bool(rows) and page.at("has_more").value is True
        return PlatformPage(items=items, next=str(int(cursor or 1) + 1) if more else "")


def _votes(row: Row) -> tuple[bool, float]:
    return row.at("accepted").value is True, row.number("votes") or 0.0


def _item(row: Row, base: str, source: str, most: int) -> Item:
    link, title = resolve(base, row.text("link")), row.plain("title")
    answers = sorted((answer for answer in row.rows("answers") if answer.text("body")), key=_votes, reverse=True)
    shown = "".join(
        f"<h2>{'Best answer' if number == 0 else 'Another answer'}</h2>{answer.markup('body')}"
        + (f"<p><em>{escape(answer.text('by'))}</em></p>" if answer.text("by") else "")
        for number, answer in enumerate(answers[:most])
    )
    return Item(
        source=source,
        identity=identity_of(row.text("id"), link, title, ""),
        link=link,
        title=title,
        summary=row.markup("body"),
        body=row.markup("body") + shown,
        authors=(row.text("by"),) if row.text("by") else (),
        categories=row.texts("tags"),
        published=row.moment("asked_at"),
        facts=stated(
            votes=row.text("votes"), answers=str(len(answers)), answered_by=answers[0].text("by") if answers else ""
        ),
        raw=row.value if isinstance(row.value, dict) else {},
    )


PLATFORMS = (Questions(),)
