"""What readers find on a blog: the posts with their words, and the words marked."""

from http import HTTPStatus
from typing import TYPE_CHECKING

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext
from django.views.decorators.http import require_safe
from glyptarch_core.text import Passage, Term, clean_text, plain_text

from glyptarch_server.common.client import client_of
from glyptarch_server.front.around import blog_context, cards, of_a_blog
from glyptarch_server.front.lists import ON_A_PAGE, page_number
from glyptarch_server.posts.for_readers import found_posts, texts_of
from glyptarch_server.throttle.actions import limit_of, take

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = ["around_hit", "pieces", "search_page"]

_LONGEST_SEARCH = 100
_SEARCHES = limit_of("60 per minute", "searches")
_AROUND = 14
"""The words shown before and after the first hit."""


@require_safe
@of_a_blog
def search_page(request: HttpRequest, row: "Blog") -> HttpResponse:
    """Return the posts in which all words occur, the best first, with the words marked."""
    words = clean_text(request.GET.get("q", ""))[:_LONGEST_SEARCH].strip()
    number = page_number(request)
    too_many = bool(words) and not take(_SEARCHES, client_of(request))
    window = slice((number - 1) * ON_A_PAGE, number * ON_A_PAGE + 1)
    found = found_posts(row, words, window) if words and not too_many else []
    texts = texts_of(row, [post.slug for post in found[:ON_A_PAGE]])
    context = blog_context(request, row) | {
        "heading": gettext("Search"),
        "here": "search",
        "words": words,
        "too_many": too_many,
        "posts": [
            (
                card,
                pieces(card.title, words),
                pieces(around_hit(" ".join(plain_text(texts.get(card.slug, "")).split()), words), words),
            )
            for card in cards(row, found[:ON_A_PAGE])
        ],
        "page": number,
        "older": number + 1 if len(found) > ON_A_PAGE else None,
    }
    status = HTTPStatus.TOO_MANY_REQUESTS if too_many else HTTPStatus.OK
    page = render(request, "front/search.html", context, status=status)
    page["Cache-Control"] = "no-store"
    return page


def _hits(text: Passage, words: str) -> list[tuple[int, int]]:
    """Return where words that were looked for begin and end in a text, in order."""
    terms = [term for word in Passage(words).words if (term := Term.parse(f"{word}*"))]
    return sorted({(hit.start, hit.end) for term in terms for hit in text.find(term)})


def pieces(text: str, words: str) -> list[tuple[str, bool]]:
    """Return a text in pieces, each with whether it is one of the words that were looked for."""
    parts, at = list[tuple[str, bool]](), 0
    for start, end in _hits(Passage(text), words):
        if start >= at:
            parts += [(text[at:start], False), (text[start:end], True)]
            at = end
    return [part for part in (*parts, (text[at:], False)) if part[0]]


def around_hit(text: str, words: str) -> str:
    """Return the words around the first hit in a text. Its beginning without one."""
    shown = Passage(text)
    first = next((start for start, _ in _hits(shown, words)), 0)
    place = sum(start < first for start, _ in shown.spans)
    begin, end = max(0, place - _AROUND), min(len(shown.spans), place + 2 * _AROUND)
    if begin >= end:
        return ""
    return f"{'… ' if begin else ''}{shown.between(begin, end)}{' …' if end < len(shown.spans) else ''}"
