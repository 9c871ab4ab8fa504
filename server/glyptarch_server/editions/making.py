"""Making the editions of a blog.

What is not in the text memory is asked for, and the task waits for it.
"""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from django.db import transaction
from glyptarch_core.editions import BlogLanguage, languages_of
from glyptarch_core.language_services import FixedWord

from glyptarch_server.blogs.actions import take_turn
from glyptarch_server.editions import actions, queries
from glyptarch_server.editions.lifecycle import EditionState
from glyptarch_server.services.actions import TASK as TEXTS
from glyptarch_server.services.actions import AskedText, ask_for
from glyptarch_server.services.queries import KeptTexts
from glyptarch_server.tasks.lifecycle import LaterError
from glyptarch_server.tasks.queries import active_task

if TYPE_CHECKING:
    from glyptarch_core.editions import EditionPlan
    from glyptarch_core.language_services import Ask

    from glyptarch_server.blogs.models import Blog
    from glyptarch_server.editions.models import Edition
    from glyptarch_server.posts.models import Post
    from glyptarch_server.tasks.carrying import Carrier
    from glyptarch_server.tasks.models import Task

__all__ = ["carry_editions"]

_AT_ONCE = 25
_SECONDS_BETWEEN_LOOKS = 3.0


def carry_editions(task: "Task", carrier: "Carrier") -> None:
    """Make the editions of a blog that are wanted, and those whose texts have come.

    Raises LaterError while services are asked for texts. What they cannot say now waits for a later task.
    """
    blog, after, done = task.blog, 0, 0
    # Asked before the pass: what is answered during it is met by another one.
    asked = active_task(TEXTS, blog.pk) is not None
    total = queries.unsettled(blog.pk).count()
    while rows := queries.next_to_make(blog.pk, after, _AT_ONCE):
        carrier.report(done, max(total, done), phase="making")
        _make(blog, rows, carrier)
        after, done = rows[-1].pk, done + len(rows)
    if (asked or active_task(TEXTS, blog.pk) is not None) and queries.unsettled(blog.pk).exists():
        raise LaterError("language services are asked", seconds=_SECONDS_BETWEEN_LOOKS)


def _make(blog: "Blog", rows: "Sequence[Edition]", carrier: "Carrier") -> None:
    languages, glossaries = languages_of(blog.languages), dict[str, list[FixedWord]]()
    planned: list[tuple[Edition, BlogLanguage, EditionPlan]] = []
    without: list[Edition] = []
    for row in rows:
        language = languages.named(row.language)
        if language is None or not language.services or not queries.may_have(row.original, row.language):
            without.append(row)
        else:
            if language.tag not in glossaries:
                glossaries[language.tag] = queries.glossary_of(blog, language)
            planned.append((row, language, queries.plan_of(row.original, language, glossaries[language.tag])))
    known = KeptTexts(blog.pk).known([ask for _, _, plan in planned for ask in plan.asks])
    made = [(row, language, plan.made(known)) for row, language, plan in planned]
    waiting = [(row, edition.waits) for row, _, edition in made if edition.waits]
    with transaction.atomic():
        take_turn(blog.pk)
        carrier.check()
        actions.fail(without, "no_service")
        for row, language, edition in made:
            if not edition.waits:
                actions.put(row, edition, language, now=carrier.now())
        if waiting:
            _ask(blog, waiting, carrier)
        actions.let_go_out(blog, [row.original_id for row in rows], now=carrier.now())


def _ask(blog: "Blog", waiting: "Sequence[tuple[Edition, list[Ask]]]", carrier: "Carrier") -> None:
    """Put on record what editions ask, and begin the task that asks services.

    Each text belongs to the campaign and the source of the original.
    """
    now = carrier.now()
    # What waited before was asked for: a service that has just given up is not asked again at once.
    new = [(row, asks) for row, asks in waiting if row.state == EditionState.WANTED.value]
    texts = [AskedText(ask, _origin(row.original), row.original.campaign_id) for row, asks in new for ask in asks]
    ask_for(blog.pk, texts, now=now)
    actions.note_waiting([row for row, _ in new], now=now)


def _origin(post: "Post") -> str:
    return post.source.key if post.source else f"post-{post.pk}"
