"""Selectors from examples: what a person points at, and which elements are meant by it.

First the elements that are *meant* are found (the same part of every block of the list, or the one
element), then selectors are made that match these and nothing else, the longest-lasting first.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import islice

from lxml import etree
from lxml.html import HtmlElement

from glyptarch_core.pages.lasting import classes_of, tokens_of
from glyptarch_core.pages.page import Page

__all__ = ["Derived", "derive", "path_to", "those_meant"]

_MOST_EXAMPLES = 10
_LEVELS = 9
_TOKENS = 6
_LEVEL_COST = 0.35
_CHILD_COST = 0.15
_PLACE_COST = 9.0
_MOST_TRIED = 900
_GIVEN = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class Derived:
    """A selector made from examples. ``cost`` says how long it will last (less is longer), ``matches`` what it finds."""

    selector: str
    matches: tuple[HtmlElement, ...]
    cost: float
    exact: bool


class _Index:
    """The elements of a page by what stands for them in a selector."""

    def __init__(self, root: HtmlElement) -> None:
        self._by_token: dict[str, set[HtmlElement]] = {}
        self._by_tag: dict[str, list[HtmlElement]] = defaultdict(list)
        for element in root.iter(etree.Element):
            self._by_tag[str(element.tag)].append(element)

    def of(self, token: str) -> set[HtmlElement]:
        """Give the elements that a token matches."""
        found = self._by_token.get(token)
        if found is None:
            found = self._by_token[token] = set(self._find(token))
        return found

    def _find(self, token: str) -> Iterable[HtmlElement]:
        if token.startswith("#"):
            return (one for group in self._by_tag.values() for one in group if one.get("id") == token[1:])
        tag, _, rest = token.partition("[")
        if rest:
            name, _, value = rest.rstrip("]").partition("=")
            return (one for one in self._by_tag[tag] if one.get(name) == value)
        tag, _, name = token.partition(".")
        if not name:
            return self._by_tag[tag]
        return (one for one in self._by_tag[tag] if name in (one.get("class") or "").split())


def path_to(element: HtmlElement) -> str:
    """Give the place of an element as CSS that finds it alone in this very page: steps by number from the root."""
    steps: list[str] = []
    one: HtmlElement | None = element
    while one is not None and one.getparent() is not None:
        before = sum(1 for _ in one.itersiblings(str(one.tag), preceding=True))
        steps.append(f"{one.tag}:nth-of-type({before + 1})")
        one = one.getparent()
    return " > ".join(reversed(steps))


def _ancestry(element: HtmlElement) -> list[HtmlElement]:
    """Give an element and those it stands in, from the root on."""
    return [*reversed(list(element.iterancestors())), element]


def _shared_root(examples: Sequence[HtmlElement]) -> HtmlElement:
    lines = [_ancestry(example) for example in examples]
    shared = lines[0][0]
    for level in zip(*lines, strict=False):
        if any(one is not level[0] for one in level):
            break
        shared = level[0]
    return shared


def _below(top: HtmlElement, element: HtmlElement) -> list[HtmlElement]:
    line = _ancestry(element)
    return line[line.index(top) + 1 :]


def _shape(elements: Sequence[HtmlElement]) -> tuple[str, ...]:
    return tuple(str(element.tag) for element in elements)


def _alike(first: HtmlElement, other: HtmlElement) -> bool:
    """Tell whether two neighbours look like two of one kind: the same tag and a class in common, or none at all."""
    if first.tag != other.tag:
        return False
    mine, theirs = set(classes_of(first)), set(classes_of(other))
    return bool(mine & theirs) or not (mine and theirs)


def _descend(block: HtmlElement, like: Sequence[HtmlElement]) -> list[HtmlElement]:
    """Give the elements at the same place below a block: by tags, preferring a class in common at each step."""
    level = [block]
    for step in like:
        children = [child for one in level for child in one if child.tag == step.tag]
        wanted = set(classes_of(step))
        named = [child for child in children if wanted & set(classes_of(child))] if wanted else []
        level = named or children
        if len(level) > 1:
            # The same tag several times: the one in the same place among its kind.
            place = sum(1 for _ in step.itersiblings(str(step.tag), preceding=True))
            same = [one for one in level if sum(1 for _ in one.itersiblings(str(one.tag), preceding=True)) == place]
            level = level if named and len(named) == len(level) and not same else same or level[:1]
    return level


def _blocks_around(example: HtmlElement) -> tuple[list[HtmlElement], list[HtmlElement]] | None:
    """Give the repeated blocks of which one holds the example, and the way from its block down to it."""
    line = _ancestry(example)
    best: tuple[float, list[HtmlElement], list[HtmlElement]] | None = None
    for place in range(len(line) - 1, 1, -1):
        block, parent = line[place], line[place - 1]
        kin = [child for child in parent if child is block or _alike(block, child)]
        rows = [kin]
        if place > 2:  # noqa: PLR2004 - a row of a grid stands in something as well
            grand = line[place - 2]
            aunts = [one for one in grand if one is parent or _alike(parent, one)]
            if len(aunts) > 1:
                rows.append([child for aunt in aunts for child in aunt if child is block or _alike(block, child)])
        for blocks in rows:
            way = line[place + 1 :]
            found = sum(bool(_descend(one, way)) for one in blocks)
            if found < 2 or found < len(blocks) * 0.5:  # noqa: PLR2004 - one is no repetition
                continue
            score = found + (0.5 if _says_block(block) else 0.0)
            if best is None or score > best[0]:
                best = (score, blocks, way)
    return (best[1], best[2]) if best else None


def _says_block(element: HtmlElement) -> bool:
    return element.tag in {"article", "li", "tr"}


def those_meant(page: Page, examples: Sequence[HtmlElement], *, without: Sequence[HtmlElement] = ()) -> set[HtmlElement]:
    """Give the elements that are most likely meant by examples, without what was said not to be.

    Several examples mean the same place in every block between them; one example the same place in the
    blocks around it, where there are such.
    """
    if len(examples) == 1:
        found = _blocks_around(examples[0])
        if found is None:
            return {examples[0]}
        blocks, way = found
        meant = {one for block in blocks for one in (_descend(block, way) if way else [block])}
    else:
        top = _shared_root(examples)
        ways = [_below(top, example) for example in examples]
        meant = set(examples)
        for way in ways:
            if not way:
                continue
            head, rest = way[0], way[1:]
            for block in top:
                if block is head or _alike(head, block):
                    meant.update(_descend(block, rest) if rest else [block])
    return (meant | set(examples)) - set(without)


def derive(
    page: Page, examples: Sequence[HtmlElement], *, without: Sequence[HtmlElement] = (), only: bool = False
) -> list[Derived]:
    """Give selectors for examples, the best first: those that match what is meant, by how long they will last.

    ``without`` are elements that must not match; with ``only`` nothing but the examples is meant. Each
    selector matches every example and none of ``without``; it is empty where no such selector was found.
    """
    chosen = list(examples)[:_MOST_EXAMPLES]
    if not chosen:
        return []
    meant = set(chosen) if only else those_meant(page, chosen, without=without)
    index, refused = _Index(page.root), set(without)
    made: dict[str, Derived] = {}
    for selector, cost, matches in islice(_candidates(index, chosen), _MOST_TRIED):
        if selector in made or not matches.issuperset(chosen) or matches & refused:
            continue
        exact = matches == meant
        apart = len(matches ^ meant) / max(len(meant), 1)
        made[selector] = Derived(
            selector=selector,
            matches=tuple(sorted(matches, key=page.places.__getitem__)),
            cost=round(cost + (0 if exact else 6 + 10 * min(apart, 3)), 2),
            exact=exact,
        )
    ranked = sorted(made.values(), key=lambda one: (one.cost, len(one.selector)))
    return ranked[:_GIVEN]


def _shared_tokens(index: _Index, elements: Sequence[HtmlElement]) -> list[tuple[str, float]]:
    """Give the cheapest tokens that stand for all these elements."""
    tokens = [(token, cost) for token, cost in tokens_of(elements[0]) if index.of(token).issuperset(elements)]
    return sorted(tokens, key=lambda one: one[1])[:_TOKENS]


def _candidates(
    index: _Index, examples: Sequence[HtmlElement]
) -> Iterable[tuple[str, float, set[HtmlElement]]]:
    """Give selectors that match all examples, with their cost and all that they match."""
    last = _shared_tokens(index, examples)
    if not last:
        return
    uppers = _upper_tokens(index, examples)
    for token, cost in last:
        yield token, cost, index.of(token)
    for distance, upper, upper_cost in uppers:
        above = index.of(upper)
        for token, cost in last:
            own = index.of(token)
            inside = {one for one in own if _stands_in(one, above)}
            total = cost + upper_cost + _LEVEL_COST * distance
            if distance == 1:
                direct = {one for one in inside if one.getparent() in above}
                yield f"{upper} > {token}", total + _CHILD_COST, direct
            yield f"{upper} {token}", total, inside
    yield from _three_levels(index, last, uppers)
    yield from _by_place(index, examples, last, uppers)


def _upper_tokens(index: _Index, examples: Sequence[HtmlElement]) -> list[tuple[int, str, float]]:
    lines = [list(islice(example.iterancestors(), _LEVELS)) for example in examples]
    found: list[tuple[int, str, float]] = []
    for distance, ancestor in enumerate(lines[0], start=1):
        if ancestor.tag in {"html", "body"}:
            break
        for token, cost in sorted(tokens_of(ancestor), key=lambda one: one[1])[:_TOKENS]:
            holders = index.of(token)
            if all(any(one in holders for one in line) for line in lines):
                found.append((distance, token, cost))
    return sorted(found, key=lambda one: one[2] + _LEVEL_COST * one[0])


def _stands_in(element: HtmlElement, above: set[HtmlElement]) -> bool:
    return any(one in above for one in element.iterancestors())


def _three_levels(
    index: _Index, last: Sequence[tuple[str, float]], uppers: Sequence[tuple[int, str, float]]
) -> Iterable[tuple[str, float, set[HtmlElement]]]:
    for far, outer, outer_cost in uppers[:8]:
        for near, inner, inner_cost in uppers[:12]:
            if near >= far:
                continue
            within = {one for one in index.of(inner) if _stands_in(one, index.of(outer))}
            for token, cost in last[:3]:
                matches = {one for one in index.of(token) if _stands_in(one, within)}
                total = cost + inner_cost + outer_cost + _LEVEL_COST * far
                yield f"{outer} {inner} {token}", total, matches
                if near == 1:
                    direct = {one for one in matches if one.getparent() in within}
                    yield f"{outer} {inner} > {token}", total + _CHILD_COST, direct


def _place_of(element: HtmlElement) -> int:
    return sum(1 for _ in element.itersiblings(str(element.tag), preceding=True)) + 1


def _by_place(
    index: _Index,
    examples: Sequence[HtmlElement],
    last: Sequence[tuple[str, float]],
    uppers: Sequence[tuple[int, str, float]],
) -> Iterable[tuple[str, float, set[HtmlElement]]]:
    """Give selectors that count among neighbours: the last resort, they break with any move."""
    places = {_place_of(example) for example in examples}
    step = next((level for level in _levels(examples) if len({_place_of(one) for one in level}) == 1), None)
    for token, cost in last[:3]:
        if len(places) == 1:
            place = next(iter(places))
            own = {one for one in index.of(token) if _place_of(one) == place}
            numbered = f"{token}:nth-of-type({place})"
            yield numbered, cost + _PLACE_COST, own
            for distance, upper, upper_cost in uppers[:16]:
                inside = {one for one in own if _stands_in(one, index.of(upper))}
                yield f"{upper} {numbered}", cost + upper_cost + _PLACE_COST + _LEVEL_COST * distance, inside
                if distance == 1:
                    direct = {one for one in inside if one.getparent() in index.of(upper)}
                    yield f"{upper} > {numbered}", cost + upper_cost + _PLACE_COST + _CHILD_COST, direct
        if step is not None:
            yield from _below_numbered(index, step[0], token, cost, uppers)


def _levels(examples: Sequence[HtmlElement]) -> Iterable[list[HtmlElement]]:
    """Give the parents of all examples, then their parents, as long as they have the same tag."""
    level = list(examples)
    while True:
        parents = [one.getparent() for one in level]
        if any(one is None for one in parents) or len({one.tag for one in parents if one is not None}) > 1:
            return
        level = [one for one in parents if one is not None]
        if level[0].tag in {"html", "body"}:
            return
        yield level


def _below_numbered(
    index: _Index, step: HtmlElement, token: str, cost: float, uppers: Sequence[tuple[int, str, float]]
) -> Iterable[tuple[str, float, set[HtmlElement]]]:
    tag, place = str(step.tag), _place_of(step)
    numbered = {one for one in index.of(tag) if _place_of(one) == place}
    matches = {one for one in index.of(token) if one.getparent() in numbered}
    yield f"{tag}:nth-of-type({place}) > {token}", cost + _PLACE_COST + 2, matches
    for distance, upper, upper_cost in uppers[:16]:
        within = {one for one in numbered if _stands_in(one, index.of(upper))}
        inside = {one for one in matches if one.getparent() in within}
        yield f"{upper} {tag}:nth-of-type({place}) > {token}", cost + upper_cost + _PLACE_COST + distance, inside
