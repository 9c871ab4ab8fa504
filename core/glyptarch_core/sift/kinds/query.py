"""A search as one would type it on the web, with a grammar of its own.

    query   = clause *( "OR" clause )
    clause  = 1*factor
    factor  = [ "-" ] ( phrase / tag / word / "(" query ")" )
    phrase  = DQUOTE words DQUOTE
    tag     = "#" word
    word    = letters and digits, with "*" at its end for all that begins so

(in ABNF, RFC 5234). ``OR`` binds looser than standing side by side. Quotation marks and dashes count
in every form that a word processor makes of them.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Literal, TypeAlias

from pydantic import AfterValidator, StringConstraints

from glyptarch_core.item import Captured
from glyptarch_core.sift.base import Check, CustomName, Finding, SiftContext, SiftRuleBase
from glyptarch_core.sift.description import SiftKind
from glyptarch_core.sift.fields import TextField, passages, values
from glyptarch_core.sift.hits import SHOWN, shown
from glyptarch_core.text import Passage, Term, fold, hashtags
from glyptarch_core.trace import Json

__all__ = ["KIND", "Query", "QueryRule", "parse_query"]

_QUOTES = '"“”„‟«»＂'
_TOKEN = re.compile(
    rf"\s*(?:(?P<open>\()|(?P<close>\))|(?P<minus>[-‐‑‒–—−])|(?P<quote>[{_QUOTES}])"
    rf"|(?P<tag>[#＃][^\s(){_QUOTES}]*)|(?P<word>[^\s(){_QUOTES}]+))"
)
_QUOTE = re.compile(f"[{_QUOTES}]")


@dataclass(frozen=True, slots=True)
class Words:
    """One word or phrase."""

    term: Term


@dataclass(frozen=True, slots=True)
class HashTag:
    """A hashtag, folded, without its sign."""

    name: str


@dataclass(frozen=True, slots=True)
class Without:
    """Parts of a query that must not occur."""

    part: "Query"


@dataclass(frozen=True, slots=True)
class All:
    """Every part must be there."""

    parts: tuple["Query", ...]


@dataclass(frozen=True, slots=True)
class Any:
    """One part must be there."""

    parts: tuple["Query", ...]


Query: TypeAlias = Words | HashTag | Without | All | Any


_DEEPEST = 30


class _Parser:
    def __init__(self, text: str) -> None:
        self._text = text
        self._at = 0
        self._depth = 0

    def fail(self, what: str, at: int) -> ValueError:
        return ValueError(f"at character {at + 1}: {what}")

    def _peek(self) -> re.Match[str] | None:
        return _TOKEN.match(self._text, self._at)

    def query(self, *, inner: bool) -> Query:
        """Parse up to the end, or to the bracket that closes."""
        clauses = [self._clause(inner=inner)]
        while (token := self._peek()) and token["word"] == "OR":
            self._at = token.end()
            clauses.append(self._clause(inner=inner))
        return clauses[0] if len(clauses) == 1 else Any(tuple(clauses))

    def _clause(self, *, inner: bool) -> Query:
        parts: list[Query] = []
        while (token := self._peek()) and token["word"] != "OR" and not (inner and token["close"]):
            parts.append(self._factor())
        if not parts:
            raise self.fail("a word is wanted here", len(self._text[: self._at].rstrip()))
        return parts[0] if len(parts) == 1 else All(tuple(parts))

    def _factor(self) -> Query:
        self._depth += 1
        if self._depth > _DEEPEST:
            raise self.fail(f"brackets and “-” may stand {_DEEPEST} deep inside each other", self._at)
        try:
            return self._one_factor()
        finally:
            self._depth -= 1

    def _one_factor(self) -> Query:
        token = self._peek()
        start = token.start(token.lastgroup or 0) if token else len(self._text)
        if token is None:
            raise self.fail("a word is wanted here", start)
        self._at = token.end()
        match token.lastgroup:
            case "minus":
                if self._at >= len(self._text) or self._text[self._at].isspace():
                    raise self.fail("“-” must stand right before the word that is not wanted", start)
                return Without(self._factor())
            case "open":
                return self._bracket(start)
            case "quote":
                return self._phrase(start)
            case "tag":
                return self._tag(token["tag"], start)
            case "close":
                raise self.fail("this bracket closes nothing", start)
        return self._word(token[token.lastgroup or 0], start)

    def _bracket(self, start: int) -> Query:
        inside = self.query(inner=True)
        closing = self._peek()
        if not closing or not closing["close"]:
            raise self.fail("this bracket is not closed", start)
        self._at = closing.end()
        return inside

    def _tag(self, written: str, start: int) -> Query:
        name = next(iter(hashtags(written)), "")
        if not name:
            raise self.fail("“#” must be followed by a word", start)
        if len(name) + 1 < len(written):
            raise self.fail(f"a hashtag ends before this, write “#{name}”", start + 1 + len(name))
        return HashTag(fold(name))

    def _phrase(self, start: int) -> Query:
        closing = _QUOTE.search(self._text, self._at)
        if closing is None:
            raise self.fail("this quotation is not closed", start)
        phrase, self._at = self._text[self._at : closing.start()], closing.end()
        return self._word(phrase, start)

    def _word(self, text: str, start: int) -> Query:
        try:
            return Words(Term.parse(text))
        except ValueError:
            raise self.fail("there is no letter or digit in this", start) from None

    def at_end(self) -> bool:
        """Whether nothing is left but space."""
        return not self._text[self._at :].strip()


def parse_query(text: str) -> Query:
    """Parse a search. Raises ValueError with the offending character (from 1)."""
    parser = _Parser(text)
    query = parser.query(inner=False)
    if not parser.at_end():
        raise parser.fail("this cannot be read", len(text))
    return query


def _parses(text: str) -> str:
    parse_query(text)
    return text


class QueryRule(SiftRuleBase):
    """``"quoted phrase"``, ``OR``, ``-without``, ``#tag``, ``word*``, brackets.

    Adjacent words must all occur.
    """

    kind: Literal["query"] = "query"
    field: TextField = TextField.TITLE_OR_TEXT
    name: CustomName = ""
    query: Annotated[
        str, StringConstraints(strip_whitespace=True, min_length=1, max_length=1000), AfterValidator(_parses)
    ]


@dataclass(frozen=True, slots=True)
class _Looked:
    where: list[tuple[str, Passage]]
    tags: frozenset[str]

    def holds(self, query: Query) -> bool:
        match query:
            case Words(term):
                return any(next(passage.find(term), None) for _, passage in self.where)
            case HashTag(name):
                return name in self.tags
            case Without(part):
                return not self.holds(part)
            case All(parts):
                return all(self.holds(part) for part in parts)
            case Any(parts):
                return any(self.holds(part) for part in parts)

    def hits(self, query: Query) -> Iterator[dict[str, Json]]:
        match query:
            case Words(term):
                places = [(where, passage, hit) for where, passage in self.where for hit in passage.find(term)]
                if places:
                    yield shown(term.text, *places[0], len(places))
            case Without(part):
                yield from self.hits(part)
            case All(parts) | Any(parts):
                for part in parts:
                    yield from self.hits(part)


def compile_query(rule: QueryRule, _context: SiftContext) -> Check:
    """Parse the search once.

    The check looks each part up in the index of the item's words.
    """
    query = parse_query(rule.query)

    def check(captured: Captured, _now: datetime) -> Finding:
        tags = frozenset(fold(tag) for tag in values(TextField.HASHTAGS, "", captured))
        looked = _Looked(list(passages(rule.field, rule.name, captured)), tags)
        passed = looked.holds(query)
        data: dict[str, Json] = {"hits": list(looked.hits(query))[:SHOWN], "query": rule.query}
        return Finding(passed=passed, code="query.holds" if passed else "query.fails", data=data)

    return check


KIND = SiftKind(
    rule=QueryRule,
    compile=compile_query,
    order=20,
    label="Search",
    hint="words with AND, OR, NOT and quotes",
    manual=(
        'a search: `"quoted phrase"`, `OR`, `-without`, `#tag`, `word*`, brackets. Adjacent words must '
        "all occur. An error names its character"
    ),
    start={"field": "title_or_text", "name": "", "query": "-sponsored"},
)
