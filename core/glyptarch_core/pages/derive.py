"""Selectors from examples that a person picks in a page.

First find the elements that the examples mean (the same part of every block of the list, or the one element). Then make
selectors that match these alone, the longest-lasting first.
"""

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from itertools import chain, islice
from weakref import WeakKeyDictionary

from lxml.html import HtmlElement

from glyptarch_core.pages.lasting import NAMING_ATTRIBUTES, classes_of, is_ordinary, tokens_of
from glyptarch_core.pages.page import Page

__all__ = ["Derived", "derive"]

_MOST_EXAMPLES = 10
_LEVELS = 9
_TOKENS = 6
_LEVEL_COST = 0.35
_CHILD_COST = 0.15
_PLACE_COST = 9.0
_LONE_TAG_COST = 4.0
_MOST_TRIED = 300
_GIVEN = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class Derived:
    """A selector made from examples.

    A lower ``cost`` lasts longer; ``matches`` are the elements found.
    """

    selector: str
    matches: tuple[HtmlElement, ...]
    cost: float
    exact: bool


_NAMING = frozenset({"id", *NAMING_ATTRIBUTES})


class _Index:
    """The elements of a page by simple selectors, such as ``li.card`` and ``#top``.

    Elements are grouped by tag and class attribute, of which a page has few; tokens are looked up in these groups.
    """

    def __init__(self, page: Page) -> None:
        self.nth, self._places, self._ends = page.nth, page.places, page.ends
        self._by_class: dict[str, dict[str, list[HtmlElement]]] = defaultdict(lambda: defaultdict(list))
        self._named: dict[str, set[HtmlElement]] = defaultdict(set)
        for element in page.elements:
            self._by_class[element.tag][element.get("class", "")].append(element)
            for name in element.keys():  # noqa: SIM118 - an element is no mapping
                if name in _NAMING:
                    value = element.get(name)
                    self._named[f"#{value}" if name == "id" else f"{element.tag}[{name}={value}]"].add(element)
        self._asked: dict[str, set[HtmlElement]] = {}

    def of(self, token: str) -> set[HtmlElement]:
        """Return the elements that a token matches."""
        elements = self._asked.get(token)
        if elements is None:
            elements = self._asked[token] = self._named.get(token) or self._of_class(token)
        return elements

    def _of_class(self, token: str) -> set[HtmlElement]:
        tag, dot, name = token.partition(".")
        written = self._by_class.get(tag, {})
        return {
            element for classes, group in written.items() if not dot or name in classes.split() for element in group
        }

    def inside(self, own: Iterable[HtmlElement], above: Iterable[HtmlElement]) -> set[HtmlElement]:
        """Return the elements that are inside some of the others."""
        starts: list[int] = []
        ends: list[int] = []
        for place in sorted(map(self._places.__getitem__, above)):
            # Descendants of an element in the set add nothing.
            if not ends or place > ends[-1]:
                starts.append(place)
                ends.append(self._ends[place])
        matches = set()
        for element in own:
            place = self._places[element]
            nearest = bisect_left(starts, place) - 1
            if nearest >= 0 and place <= ends[nearest]:
                matches.add(element)
        return matches


def _ancestry(element: HtmlElement) -> list[HtmlElement]:
    """Return an element and its ancestors, from the root down."""
    return [*reversed(list(element.iterancestors())), element]


def _shared_root(examples: Sequence[HtmlElement]) -> HtmlElement:
    lines = [_ancestry(example) for example in examples]
    shared = lines[0][0]
    for level in zip(*lines, strict=False):
        if any(element is not level[0] for element in level):
            break
        shared = level[0]
    return shared


def _below(top: HtmlElement, element: HtmlElement) -> list[HtmlElement]:
    line = _ancestry(element)
    return line[line.index(top) + 1 :]


def _shape(elements: Sequence[HtmlElement]) -> tuple[str, ...]:
    return tuple(str(element.tag) for element in elements)


def _kin(block: HtmlElement, around: Iterable[HtmlElement]) -> list[HtmlElement]:
    """Return the elements similar to one: the same tag, and a shared class or no class at all."""
    tag, written, mine = block.tag, block.get("class"), classes_of(block)
    return [
        neighbour
        for neighbour in around
        if neighbour.tag == tag and (neighbour.get("class") == written or _agree(mine, classes_of(neighbour)))
    ]


def _agree(mine: Sequence[str], theirs: Sequence[str]) -> bool:
    return not (mine and theirs) or any(name in theirs for name in mine)


def _are_rows(first: HtmlElement, other: HtmlElement) -> bool:
    """Whether two elements are rows of one grid: the same tag and classes, or both unnamed."""
    return first.tag == other.tag and classes_of(first) == classes_of(other) and first.get("id") == other.get("id")


class _Step:
    """One step down from a block, and the test for the matching element in other blocks."""

    __slots__ = ("names", "place", "tag", "written")

    def __init__(self, element: HtmlElement, nth: Mapping[HtmlElement, int]) -> None:
        self.tag, self.written = element.tag, element.get("class")
        self.names, self.place = frozenset(classes_of(element)), nth[element]

    def named(self, element: HtmlElement) -> bool:
        """Whether another element shares a class with this one."""
        return element.get("class") == self.written or not self.names.isdisjoint(classes_of(element))


def _descend(block: HtmlElement, way: Sequence[_Step], nth: Mapping[HtmlElement, int]) -> list[HtmlElement]:
    """Return the elements at the same position below a block.

    Steps go by tag and prefer a shared class.
    """
    level = [block]
    for step in way:
        children = [child for element in level for child in element if child.tag == step.tag]
        named = [child for child in children if step.named(child)] if step.names else []
        level = named or children
        if len(level) > 1:
            # Of several with this tag, take the one at the same position.
            same = [element for element in level if nth[element] == step.place]
            level = level if named and len(named) == len(level) and not same else same or level[:1]
    return level


def _blocks_around(
    example: HtmlElement, nth: Mapping[HtmlElement, int]
) -> tuple[list[HtmlElement], list[_Step]] | None:
    """Return the repeated blocks around an example, and the way down from its block to it."""
    line = _ancestry(example)
    best: tuple[float, list[HtmlElement], list[_Step]] | None = None
    steps = [_Step(element, nth) for element in line]
    for place in range(len(line) - 1, 1, -1):
        block, parent = line[place], line[place - 1]
        rows = [_kin(block, parent)]
        if place > 2:  # noqa: PLR2004 - a row of a grid stands in something as well
            grand = line[place - 2]
            aunts = [sibling for sibling in grand if sibling is parent or _are_rows(parent, sibling)]
            if len(aunts) > 1:
                rows.append(_kin(block, chain.from_iterable(aunts)))
        for blocks in rows:
            way = steps[place + 1 :]
            count = sum(bool(_descend(block, way, nth)) for block in blocks)
            if count < 2 or count < len(blocks) * 0.5:  # noqa: PLR2004 - one is no repetition
                continue
            score = count + (0.5 if _says_block(block) else 0.0)
            if best is None or score > best[0]:
                best = (score, blocks, way)
    return (best[1], best[2]) if best else None


def _says_block(element: HtmlElement) -> bool:
    return element.tag in {"article", "li", "tr"}


def _those_meant(
    page: Page, examples: Sequence[HtmlElement], *, without: Sequence[HtmlElement] = ()
) -> set[HtmlElement]:
    """Return the elements that examples most likely mean, without the excluded ones.

    Several examples: the same position in every block between them. One example: the same position in its sibling
    blocks, if there are any.
    """
    around = _blocks_around(examples[0], page.nth)
    alike = (
        {element for block in around[0] for element in (_descend(block, around[1], page.nth) if around[1] else [block])}
        if around
        else set()
    )
    if len(examples) == 1 or alike.issuperset(examples):
        meant = alike or set(examples)
    else:
        top = _shared_root(examples)
        ways = [_below(top, example) for example in examples]
        meant = set(examples)
        for way in ways:
            if not way:
                continue
            rest = [_Step(element, page.nth) for element in way[1:]]
            for block in _kin(way[0], top):
                meant.update(_descend(block, rest, page.nth) if rest else [block])
    return (meant | set(examples)) - set(without)


def derive(
    page: Page, examples: Sequence[HtmlElement], *, without: Sequence[HtmlElement] = (), only: bool = False
) -> list[Derived]:
    """Return selectors for examples, best first.

    The best match what is meant and last longest. ``without`` are elements that must not match. With ``only``, nothing
    but the examples is meant. Each selector matches every example and none of ``without``; the list is empty where
    there is no such selector.
    """
    chosen = list(examples)[:_MOST_EXAMPLES]
    if not chosen:
        return []
    meant = set(examples) if only else _those_meant(page, chosen, without=without)
    index, refused = page_index(page), set(without)
    by_selector: dict[str, Derived] = {}
    in_order = tuple(sorted(meant, key=page.places.__getitem__))
    exact_ones = 0
    for cost, selector, find in sorted(
        _candidates(index, chosen), key=lambda candidate: (candidate[0], len(candidate[1]))
    )[:_MOST_TRIED]:
        if selector in by_selector or exact_ones == _GIVEN:
            continue
        matches = find()
        if not matches.issuperset(chosen) or matches & refused:
            continue
        exact = matches == meant
        exact_ones += exact
        ordered = in_order if exact else tuple(sorted(matches, key=page.places.__getitem__))
        apart = len(matches ^ meant) / max(len(meant), 1)
        by_selector[selector] = Derived(
            selector=selector,
            matches=ordered,
            cost=round(cost + (0 if exact else 6 + 10 * min(apart, 3)), 2),
            exact=exact,
        )
    ranked = sorted(by_selector.values(), key=lambda derived: (derived.cost, len(derived.selector)))
    return ranked[:_GIVEN]


_Candidate = tuple[float, str, Callable[[], set[HtmlElement]]]
"""A selector that may do: its cost, and what finds its matches."""


def _shared_tokens(index: _Index, elements: Sequence[HtmlElement]) -> list[tuple[str, float]]:
    """Return the cheapest tokens that match all of these elements."""
    tokens = [(token, cost) for token, cost in tokens_of(elements[0]) if index.of(token).issuperset(elements)]
    return sorted(tokens, key=lambda token: token[1])[:_TOKENS]


def _candidates(index: _Index, examples: Sequence[HtmlElement]) -> Iterator[_Candidate]:
    """Yield selectors that match all examples."""
    last = _shared_tokens(index, examples)
    if not last:
        return
    uppers = _upper_tokens(index, examples)
    for token, cost in last:
        # A bare tag also matches anything that the site adds elsewhere.
        yield cost + (_LONE_TAG_COST if token.isalnum() else 0.0), token, partial(index.of, token)
    for distance, upper, upper_cost in uppers:
        for token, cost in last:
            total = cost + upper_cost + _LEVEL_COST * distance
            if distance == 1:
                yield total + _CHILD_COST, f"{upper} > {token}", partial(_children, index.of(token), index.of(upper))
            yield total, f"{upper} {token}", partial(index.inside, index.of(token), index.of(upper))
    yield from _three_levels(index, last, uppers)
    yield from _by_place(index, examples, last, uppers)


def _children(own: Iterable[HtmlElement], above: set[HtmlElement]) -> set[HtmlElement]:
    return {element for element in own if element.getparent() in above}


def _upper_tokens(index: _Index, examples: Sequence[HtmlElement]) -> list[tuple[int, str, float]]:
    lines = [list(islice(example.iterancestors(), _LEVELS)) for example in examples]
    candidates: list[tuple[int, str, float]] = []
    for distance, ancestor in enumerate(lines[0], start=1):
        if ancestor.tag in {"html", "body"}:
            break
        for token, cost in sorted(tokens_of(ancestor), key=lambda token: token[1])[:_TOKENS]:
            holders = index.of(token)
            if all(any(element in holders for element in line) for line in lines):
                candidates.append((distance, token, cost))
    return sorted(candidates, key=lambda candidate: candidate[2] + _LEVEL_COST * candidate[0])


def _three_levels(
    index: _Index, last: Sequence[tuple[str, float]], uppers: Sequence[tuple[int, str, float]]
) -> Iterator[_Candidate]:
    for far, outer, outer_cost in uppers[:8]:
        for near, inner, inner_cost in uppers[:12]:
            if near >= far:
                continue
            for token, cost in last[:3]:
                total = cost + inner_cost + outer_cost + _LEVEL_COST * far
                yield total, f"{outer} {inner} {token}", partial(_within_two, index, outer, inner, token, direct=False)
                if near == 1:
                    find = partial(_within_two, index, outer, inner, token, direct=True)
                    yield total + _CHILD_COST, f"{outer} {inner} > {token}", find


def _within_two(index: _Index, outer: str, inner: str, token: str, *, direct: bool) -> set[HtmlElement]:
    within = index.inside(index.of(inner), index.of(outer))
    return _children(index.of(token), within) if direct else index.inside(index.of(token), within)


def _by_place(
    index: _Index,
    examples: Sequence[HtmlElement],
    last: Sequence[tuple[str, float]],
    uppers: Sequence[tuple[int, str, float]],
) -> Iterator[_Candidate]:
    """Yield selectors by position among siblings, the last resort, since any move breaks them."""
    places = {index.nth[example] for example in examples}
    steps = [level[0] for level in islice(_levels(examples), _LEVELS) if _same_place(index, level)]
    for token, cost in last[:3]:
        if len(places) == 1:
            place = next(iter(places))
            numbered = f"{token}:nth-of-type({place})"
            yield cost + _PLACE_COST, numbered, partial(_numbered, index, token, place)
            for distance, upper, upper_cost in uppers[:16]:
                total = cost + upper_cost + _PLACE_COST
                find = partial(_numbered, index, token, place, upper=upper)
                yield total + _LEVEL_COST * distance, f"{upper} {numbered}", find
                if distance == 1:
                    find = partial(_numbered, index, token, place, upper=upper, direct=True)
                    yield total + _CHILD_COST, f"{upper} > {numbered}", find
        for distance, step in enumerate(steps):
            yield from _below_numbered(index, step, token, cost + distance, uppers)


def _same_place(index: _Index, level: Sequence[HtmlElement]) -> bool:
    return is_ordinary(str(level[0].tag)) and len({index.nth[element] for element in level}) == 1


def _numbered(index: _Index, token: str, place: int, *, upper: str = "", direct: bool = False) -> set[HtmlElement]:
    own = {element for element in index.of(token) if index.nth[element] == place}
    if not upper:
        return own
    return _children(own, index.of(upper)) if direct else index.inside(own, index.of(upper))


def _levels(examples: Sequence[HtmlElement]) -> Iterable[list[HtmlElement]]:
    """Yield the parents of all examples, then their parents, while they share a tag."""
    level = list(examples)
    while True:
        parents = [element.getparent() for element in level]
        if (
            any(parent is None for parent in parents)
            or len({parent.tag for parent in parents if parent is not None}) > 1
        ):
            return
        level = [parent for parent in parents if parent is not None]
        if level[0].tag in {"html", "body"}:
            return
        yield level


def _below_numbered(
    index: _Index, step: HtmlElement, token: str, cost: float, uppers: Sequence[tuple[int, str, float]]
) -> Iterator[_Candidate]:
    tag, place = str(step.tag), index.nth[step]

    def find(upper: str = "") -> set[HtmlElement]:
        return index.inside(index.of(token), _numbered(index, tag, place, upper=upper))

    yield cost + _PLACE_COST + 2, f"{tag}:nth-of-type({place}) {token}", find
    for distance, upper, upper_cost in uppers[:16]:
        total = cost + upper_cost + _PLACE_COST + distance
        yield total, f"{upper} {tag}:nth-of-type({place}) {token}", partial(find, upper)


_indexes: WeakKeyDictionary[Page, _Index] = WeakKeyDictionary()


def page_index(page: Page) -> _Index:
    """Return the index of a page, built once."""
    index = _indexes.get(page)
    if index is None:
        index = _indexes[page] = _Index(page)
    return index
