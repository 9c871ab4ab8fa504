"""What a pass asks of language services, and the memory of their answers.

A pass never calls a service. It asks the text memory; what is not there yet is named in the decision of the item, which
waits for it. The holder of the memory asks the services, checks their answers (``editions/checks.py``) and keeps them.
"""

import hashlib
import json
from collections.abc import Collection, Hashable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property
from typing import NamedTuple, Protocol

__all__ = ["NO_TEXTS", "Answer", "Ask", "FixedWord", "TextMemory", "TextTask", "Texts"]


class TextTask(StrEnum):
    """What a language service is asked to do with a text."""

    TRANSLATE = "translate"
    REWORD = "reword"
    SUMMARISE = "summarise"


class FixedWord(NamedTuple):
    """A word of the glossary with its forms, and the forms of which one must stand for it.

    Without ``by`` it stays as it is.
    """

    forms: tuple[str, ...]
    by: tuple[str, ...] = ()


@dataclass(frozen=True, slots=False, kw_only=True)
class Ask:
    """One block of text, what is to be done with it, and by which services.

    The first service that answers counts. ``text`` has numbered marks in the place of inline elements
    (``editions/blocks.py``). ``source`` and ``target`` are languages (BCP 47); ``source`` is empty where it is unknown.
    ``words`` limits a summary, 0 for none. ``names`` are those that must be in the answer; ``fixed`` are the words of
    the glossary that stand in the text.
    """

    task: TextTask
    services: tuple[str, ...]
    text: str
    source: str
    target: str
    words: int = 0
    names: tuple[str, ...] = ()
    fixed: tuple[FixedWord, ...] = ()

    @cached_property
    def key(self) -> str:
        """A digest (SHA-256) that names this text with these settings and the first service.

        Names depend on the text around, and further services are asked only where the first fails. So the same block
        of another item is the same question, and a service that is added asks for nothing again.
        """
        parts = [self.task, self.services[0], self.text, self.source, self.target, self.words, self.fixed]
        return hashlib.sha256(json.dumps(parts, ensure_ascii=True).encode()).hexdigest()


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """What a service answered, checked.

    ``text`` is empty where no service gave an answer that can be used; ``fault`` then says why, by a code of
    ``editions/checks.py`` or of the holder of the memory. ``by`` is the key of the service.
    """

    text: str = ""
    fault: str = ""
    by: str = ""


class TextMemory(Protocol):
    """The checked answers of language services, by the keys of what they were asked."""

    @property
    def stamp(self) -> Hashable:
        """Return a stamp of the state: equal stamps mean equal answers."""
        return None

    def known(self, asks: Collection[Ask]) -> Mapping[str, Answer]:
        """Return the answers that are there, by key. One call answers for a whole batch."""
        ...


class _NoTexts(TextMemory):
    """A memory without any answers, for rules that ask no service."""

    def known(self, asks: Collection[Ask]) -> Mapping[str, Answer]:
        del asks
        return {}


NO_TEXTS: TextMemory = _NoTexts()


class Texts:
    """The answers known in one pass."""

    def __init__(self, memory: TextMemory) -> None:
        self._memory = memory
        self._known: dict[str, Answer] = {}

    @property
    def stamp(self) -> Hashable:
        """The stamp of the memory."""
        return self._memory.stamp

    def answer(self, ask: Ask) -> Answer | None:
        """Return an answer that has been looked up. None where there is none yet."""
        return self._known.get(ask.key)

    def look_up(self, asks: Collection[Ask]) -> bool:
        """Ask the memory. Return whether it has an answer to one of them."""
        found = self._memory.known(asks)
        self._known.update(found)
        return bool(found)
