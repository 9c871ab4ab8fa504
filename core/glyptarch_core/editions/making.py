"""An edition of a post: its texts in another language, block by block.

An edition is made of the finished post, so that whatever rules and people did to it is in each language. What is asked
comes first (``EditionPlan.asks``); with the answers at hand the plan gives the texts.
"""

import hashlib
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Protocol

from glyptarch_core.editions.asking import asked_of
from glyptarch_core.editions.blocks import blocks_of
from glyptarch_core.language_services import Answer, Ask, FixedWord, TextTask
from glyptarch_core.text import count_words, plain_text, sanitise
from glyptarch_core.text.markup import fragment, serialise
from glyptarch_core.text.measure import first_words

__all__ = ["EditionBlock", "EditionPlan", "EditionTexts", "MadeEdition", "block_texts", "digest_of"]

_DIGEST = 16
_CUT_FROM_BODY = ("excerpt", "description")
_FEWEST_CUT, _SAME_BEGINNING = 20, 60


@dataclass(frozen=True, slots=True, kw_only=True)
class EditionTexts:
    """The texts of a post that an edition has in its own language.

    ``body`` is HTML, the others are plain. ``labels`` and ``values`` are those of its fields, in order; a value that is
    no text is empty.
    """

    title: str
    body: str
    excerpt: str = ""
    description: str = ""
    lead_alt: str = ""
    labels: tuple[str, ...] = ()
    values: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class EditionBlock:
    """A block of the original, what is asked about it, and the answer.

    None where there is none yet.
    """

    part: str
    ask: Ask
    answer: Answer | None = None

    @property
    def digest(self) -> str:
        """The digest of its text, by which a later original is compared."""
        return digest_of(self.ask.text)


@dataclass(frozen=True, slots=True, kw_only=True)
class MadeEdition:
    """The texts of an edition, with the blocks that they are made of.

    A block without an answer, or with a fault, has the words of the original.
    """

    texts: EditionTexts
    blocks: tuple[EditionBlock, ...]

    @property
    def waits(self) -> list[Ask]:
        """What is asked and not answered yet."""
        return [block.ask for block in self.blocks if block.answer is None]

    @property
    def faults(self) -> list[tuple[str, str]]:
        """The faults of the blocks that no service could say, with their texts."""
        return [(block.answer.fault, block.ask.text) for block in self.blocks if block.answer and block.answer.fault]


class _Puttable(Protocol):
    text: str

    def put(self, text: str) -> None: ...


@dataclass(slots=True)
class _Line:
    """A plain text as a block."""

    text: str

    def put(self, text: str) -> None:
        """Put another text in its place."""
        self.text = text


@dataclass(slots=True)
class _Part:
    """A block of the original with the part of the post that it stands in."""

    name: str
    block: _Puttable
    ask: Ask = field(init=False)


class EditionPlan:
    """What is asked for an edition of a post, and how the answers become its texts.

    ``services`` are asked in order. ``source`` and ``target`` are languages (BCP 47).
    """

    def __init__(
        self,
        texts: EditionTexts,
        *,
        services: Sequence[str],
        source: str,
        target: str,
        glossary: Sequence[FixedWord] = (),
    ) -> None:
        self._lines = {
            name: _Line(text.strip())
            for name, text in (
                ("title", texts.title),
                ("excerpt", texts.excerpt),
                ("description", texts.description),
                ("lead_alt", texts.lead_alt),
            )
        }
        # What is only the beginning of the body is cut from the body of the edition, and asked for once.
        whole_body = _in_one_line(plain_text(texts.body))
        self._cut = {
            name: count_words(line.text)
            for name, line in self._lines.items()
            if name in _CUT_FROM_BODY and _is_beginning(line.text, whole_body)
        }
        self._labels = [_Line(label.strip()) for label in texts.labels]
        self._values = [_Line(value.strip()) for value in texts.values]
        self._root = fragment(sanitise(texts.body))
        fields = [("field", line) for line in (*self._labels, *self._values)]
        asked = [(name, line) for name, line in self._lines.items() if name not in self._cut]
        lines = [*asked, *fields, *(("body", block) for block in blocks_of(self._root))]
        self._parts = [_Part(name, block) for name, block in lines if _says_something(block.text)]
        whole = "\n".join(part.block.text for part in self._parts)
        for part in self._parts:
            part.ask = asked_of(
                part.block.text,
                whole,
                task=TextTask.TRANSLATE,
                services=tuple(services),
                source=source,
                target=target,
                words=0,
                glossary=glossary,
            )

    @property
    def asks(self) -> list[Ask]:
        """What is asked, in the order of the post."""
        return [part.ask for part in self._parts]

    @property
    def cut_parts(self) -> frozenset[str]:
        """The parts that are cut from the body."""
        return frozenset(self._cut)

    @property
    def part_names(self) -> list[str]:
        """The part of the post in which each of them stands."""
        return [part.name for part in self._parts]

    def made(self, answers: Mapping[str, Answer]) -> MadeEdition:
        """Return the edition with the answers that are known, by key. Call it once."""
        blocks = tuple(self._put(part, answers.get(part.ask.key)) for part in self._parts)
        body = serialise(self._root)
        for name, words in self._cut.items():
            self._lines[name].put(first_words(_in_one_line(plain_text(body)), words, ellipsis="…"))
        texts = EditionTexts(
            **{name: line.text for name, line in self._lines.items()},
            body=body,
            labels=tuple(line.text for line in self._labels),
            values=tuple(line.text for line in self._values),
        )
        return MadeEdition(texts=texts, blocks=blocks)

    @staticmethod
    def _put(part: _Part, answer: Answer | None) -> EditionBlock:
        if answer is not None and not answer.fault:
            try:
                part.block.put(answer.text)
            except ValueError:
                answer = Answer(fault="marks", by=answer.by)
        return EditionBlock(part=part.name, ask=part.ask, answer=answer)


def _in_one_line(text: str) -> str:
    return " ".join(text.split())


def _is_beginning(text: str, whole: str) -> bool:
    """Whether a text is cut from the beginning of another.

    That one may have been edited further on since.
    """
    beginning = _in_one_line(text.rstrip("… "))
    return len(beginning) >= _FEWEST_CUT and whole.startswith(beginning[:_SAME_BEGINNING])


def _says_something(text: str) -> bool:
    return any(map(str.isalpha, text))


def digest_of(text: str) -> str:
    """Return a short digest (SHA-256) of the text of a block."""
    return hashlib.sha256(text.encode()).hexdigest()[:_DIGEST]


def block_texts(texts: EditionTexts, *, leave_out: Collection[str] = ()) -> list[tuple[str, str]]:
    """Return the present blocks of a post: the part of each, and its marked text."""
    texts = replace(
        texts,
        excerpt="" if "excerpt" in leave_out else texts.excerpt,
        description="" if "description" in leave_out else texts.description,
    )
    plan = EditionPlan(texts, services=("none",), source="", target="und")
    return [(part.name, part.block.text) for part in plan._parts]  # noqa: SLF001 - of the same module
