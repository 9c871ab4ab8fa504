"""API answers about editions, from rows."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from babel import Locale, UnknownLocaleError
from glyptarch_core.editions import BlogLanguage, block_texts, digest_of, languages_of, without_marks
from glyptarch_core.release import EditionMode

from glyptarch_server.editions import queries
from glyptarch_server.editions.lifecycle import EditionState
from glyptarch_server.editions.schemas import (
    BlockOut,
    EditionFaultOut,
    EditionOut,
    EditionTextsOut,
    LanguageCountOut,
    LanguagesOut,
)
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.services.queries import KeptTexts, costs_of
from glyptarch_server.services.schemas import TextsCostOut

if TYPE_CHECKING:
    from glyptarch_core.language_services import Answer, Ask

    from glyptarch_server.blogs.models import Blog
    from glyptarch_server.editions.models import Edition
    from glyptarch_server.posts.models import Post

__all__ = ["editions_out", "languages_out", "texts_out"]

_RIGHT_TO_LEFT = frozenset({"ar", "fa", "he", "ur", "yi", "ckb", "dv", "ps", "sd", "ug"})


def _named(tag: str) -> str:
    """Return the name of a language in English. Its tag where it has none."""
    try:
        return Locale.parse(tag.replace("-", "_")).get_display_name("en") or tag
    except (UnknownLocaleError, ValueError):
        return tag


def languages_out(blog: "Blog") -> LanguagesOut:
    """Return the languages of a blog with their numbers of editions."""
    document, counts = languages_of(blog.languages), queries.counts_of(blog)
    return LanguagesOut(
        version=blog.version,
        usual=blog.language,
        document=document,
        counts=[
            LanguageCountOut(
                language=language.tag,
                name=_named(language.tag),
                editions={EditionState(state): number for state, number in counts.get(language.tag, {}).items()},
            )
            for language in document.languages
        ],
    )


@dataclass(frozen=True, slots=True)
class _Compared:
    """An original as it is now, beside the text of which an edition was made."""

    asks: "Sequence[Ask]"
    parts: Sequence[str]
    cut_parts: frozenset[str]
    changed: Sequence[bool]
    unknown: "Sequence[Ask]"
    known: "Mapping[str, Answer]"


def _compared(post: "Post", language: BlogLanguage, row: "Edition | None") -> _Compared:
    plan = queries.plan_of(post, language, queries.glossary_of(post.blog, language))
    made_of = set(row.digests) if row is not None else set()
    known = KeptTexts(post.blog_id).known(plan.asks)
    return _Compared(
        asks=plan.asks,
        parts=plan.part_names,
        cut_parts=plan.cut_parts,
        changed=[digest_of(ask.text) not in made_of for ask in plan.asks],
        unknown=list({ask.key: ask for ask in plan.asks if ask.key not in known}.values()),
        known=known,
    )


def _costs(blog_id: int, asks: "Sequence[Ask]") -> list[TextsCostOut]:
    return [TextsCostOut.from_orm(cost) for cost in costs_of(blog_id, asks)]


def editions_out(post: "Post") -> list[EditionOut]:
    """Return each language of a post's blog with the edition that it has."""
    rows = {row.language: row for row in queries.editions_of_post(post)}
    return [
        _edition(post, language, rows.get(language.tag)) for language in languages_of(post.blog.languages).languages
    ]


def _edition(post: "Post", language: BlogLanguage, row: "Edition | None") -> EditionOut:
    may = queries.may_have(post, language.tag)
    compared = _compared(post, language, row) if may and language.services else None
    is_made = row is not None and row.state == EditionState.MADE.value
    return EditionOut(
        language=language.tag,
        name=_named(language.tag),
        may=may and bool(language.services),
        state=EditionState(row.state) if row else None,
        mode=EditionMode(row.mode) if row else None,
        post=row.post_id if row else None,
        title=row.post.title if row and row.post else "",
        post_state=PostState(row.post.state) if row and row.post else None,
        edited=bool(row and row.post and row.post.edited),
        made_at=row.made_at if row else None,
        blocks=len(compared.asks) if compared else 0,
        behind=sum(compared.changed) if compared and is_made else 0,
        faults=[EditionFaultOut(fault=fault, text=without_marks(text)) for fault, text in (row.faults if row else [])],
        costs=_costs(post.blog_id, compared.unknown) if compared else [],
    )


def texts_out(post: "Post", row: "Edition", language: BlogLanguage) -> EditionTextsOut:
    """Return an edition beside its original, block by block."""
    compared = _compared(post, language, row)
    after = block_texts(queries.texts_of_post(row.post), leave_out=compared.cut_parts) if row.post else []
    side_by_side = [part for part, _ in after] == list(compared.parts)
    blocks = []
    for place, (ask, part, changed) in enumerate(zip(compared.asks, compared.parts, compared.changed, strict=True)):
        answer = compared.known.get(ask.key)
        blocks.append(
            BlockOut(
                part=part,
                before=without_marks(ask.text),
                after=without_marks(after[place][1]) if side_by_side else "",
                changed=changed,
                fault=answer.fault if answer else "",
                kept=_kept(ask),
            )
        )
    if not side_by_side:
        blocks += [
            BlockOut(part=part, before="", after=without_marks(text), changed=False, fault="", kept=[])
            for part, text in after
        ]
    return EditionTextsOut(
        original=post.pk,
        post=row.post_id,
        language=language.tag,
        direction="rtl" if language.tag.partition("-")[0].lower() in _RIGHT_TO_LEFT else "ltr",
        side_by_side=side_by_side,
        blocks=blocks,
        behind=sum(compared.changed),
        costs=_costs(post.blog_id, compared.unknown),
    )


def _kept(ask: "Ask") -> list[str]:
    """Return what must be in both texts: names, fixed terms in either language, and numbers."""
    numbers = [word.strip(".,:;!?()") for word in without_marks(ask.text).split() if any(map(str.isdecimal, word))]
    terms = [form for word in ask.fixed for form in (*word.forms, *word.by)]
    return list(dict.fromkeys([*ask.names, *terms, *numbers]))
