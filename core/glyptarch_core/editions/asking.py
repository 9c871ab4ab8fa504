"""What is asked of a language service about one block of a text."""

from collections.abc import Sequence

from glyptarch_core.editions.blocks import without_marks
from glyptarch_core.editions.names import common_words, names_in
from glyptarch_core.editions.terms import times
from glyptarch_core.language_services import Ask, FixedWord, TextTask
from glyptarch_core.text.words import fold

__all__ = ["asked_of", "fixed_words"]

_MOST_NAMES = 60


def fixed_words(what: str, by: str) -> FixedWord:
    """Read a line of a glossary: the forms of a term, and those of what stands for it.

    Forms are parted by strokes: ``ring/rings``. A term without a replacement stays as it is.
    """
    return FixedWord(forms=_forms(what), by=_forms(by))


def _forms(text: str) -> tuple[str, ...]:
    return tuple(" ".join(form.split()) for form in text.split("/") if form.strip())


def asked_of(
    text: str,
    whole: str,
    *,
    task: TextTask,
    services: tuple[str, ...],
    source: str,
    target: str,
    words: int,
    glossary: Sequence[FixedWord],
) -> Ask:
    """Return what is asked about a marked text.

    ``whole`` is all text around it: what stands there in small letters is no name.
    """
    plain = without_marks(text)
    fixed = tuple(word for word in glossary if times(plain, word.forms))
    names: tuple[str, ...] = ()
    if task is not TextTask.SUMMARISE:
        known = frozenset(fold(word) for line in fixed for form in line.forms for word in form.split())
        names = names_in(plain, source, common=common_words(whole) | known)[:_MOST_NAMES]
    return Ask(
        task=task,
        services=services,
        text=text,
        source=source,
        target=target,
        words=words,
        names=names,
        fixed=fixed,
    )
