"""Why nothing arrives: every step from the address to the blog, and the first that stops it.

Findings are codes and values, as in traces; the interface words them.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum

from glyptarch_core.health import Health
from glyptarch_core.trace import Json

__all__ = ["Checked", "Facts", "Finding", "ReasonCount", "RunFacts", "SourceFacts", "State", "checkup"]


class State(StrEnum):
    """The weight of a finding: fine, worth knowing, or blocking."""

    OK = "ok"
    NOTE = "note"
    STOP = "stop"


class Checked(StrEnum):
    """The steps, in the order in which an item goes through them."""

    SCHEDULE = "schedule"
    SOURCES = "sources"
    ITEMS = "items"
    RUN = "run"
    RULES = "rules"
    POSTS = "posts"


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """The result of checking one step."""

    step: Checked
    state: State
    code: str
    data: Mapping[str, Json] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class SourceFacts:
    """A source of the campaign: how it does, how many items it has, and when its newest is from."""

    key: str
    title: str
    health: Health
    detail: str
    items: int
    newest: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class RunFacts:
    """The last run: its number, when it was asked for, and how it ended (``failure`` says why)."""

    number: int
    at: datetime
    ended: bool
    failure: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ReasonCount:
    """A reason, and the number of items that left for it."""

    stage: str
    code: str
    rule: str
    rule_title: str
    count: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Facts:
    """The facts that a checkup examines.

    ``decided`` counts the decisions of the last runs by verdict. ``reasons`` are the reasons against items, most
    frequent first. ``posts`` counts posts by state, private ones apart. ``waiting`` counts captured items that no run
    has decided.
    """

    by_hand: bool
    paused: bool
    next_run_at: datetime | None
    sources: Sequence[SourceFacts]
    run: RunFacts | None
    waiting: int
    decided: Mapping[str, int]
    reasons: Sequence[ReasonCount]
    posts: Mapping[str, int]


_BAD = frozenset({Health.FAILING, Health.GONE})
_MOST_REASONS = 3
_NOT_KEPT = ("refused", "duplicate")


def checkup(facts: Facts) -> list[Finding]:
    """Look at every step. The first finding that is a STOP says why nothing arrives."""
    return [*_schedule(facts), *_sources(facts), *_items(facts), *_run(facts), *_rules(facts), *_posts(facts)]


def _schedule(facts: Facts) -> Iterator[Finding]:
    step = Checked.SCHEDULE
    if facts.by_hand:
        yield Finding(step=step, state=State.NOTE, code="schedule.hand")
    elif facts.paused:
        yield Finding(step=step, state=State.STOP, code="schedule.paused")
    elif facts.next_run_at is None:
        yield Finding(step=step, state=State.STOP, code="schedule.ended")
    else:
        yield Finding(step=step, state=State.OK, code="schedule.next", data={"at": facts.next_run_at.isoformat()})


def _sources(facts: Facts) -> Iterator[Finding]:
    step = Checked.SOURCES
    if not facts.sources:
        yield Finding(step=step, state=State.STOP, code="sources.none")
        return
    bad = [source for source in facts.sources if source.health in _BAD]
    named: list[Json] = [
        {"key": source.key, "title": source.title, "detail": source.detail} for source in bad[:_MOST_REASONS]
    ]
    if len(bad) == len(facts.sources):
        yield Finding(step=step, state=State.STOP, code="sources.all_fail", data={"sources": named})
    elif bad:
        data: dict[str, Json] = {"sources": named, "bad": len(bad), "of": len(facts.sources)}
        yield Finding(step=step, state=State.NOTE, code="sources.some_fail", data=data)
    else:
        unread = sum(source.health is Health.UNREAD for source in facts.sources)
        state = State.NOTE if unread else State.OK
        code = "sources.unread" if unread else "sources.read"
        yield Finding(step=step, state=state, code=code, data={"unread": unread, "of": len(facts.sources)})


def _items(facts: Facts) -> Iterator[Finding]:
    if not facts.sources:
        return
    step = Checked.ITEMS
    total = sum(source.items for source in facts.sources)
    newest = max((source.newest for source in facts.sources if source.newest), default=None)
    if not total or newest is None:
        yield Finding(step=step, state=State.STOP, code="items.none")
        return
    quiet: list[Json] = [
        {"key": source.key, "title": source.title} for source in facts.sources if source.health is Health.QUIET
    ]
    data: dict[str, Json] = {"items": total, "newest": newest.isoformat(), "quiet": quiet[:_MOST_REASONS]}
    yield Finding(
        step=step,
        state=State.NOTE if quiet else State.OK,
        code="items.quiet" if quiet else "items.there",
        data=data,
    )


def _run(facts: Facts) -> Iterator[Finding]:
    step, run = Checked.RUN, facts.run
    if run is None:
        yield Finding(step=step, state=State.STOP, code="run.none", data={"waiting": facts.waiting})
        return
    data: dict[str, Json] = {"run": run.number, "at": run.at.isoformat()}
    if run.failure:
        yield Finding(step=step, state=State.STOP, code="run.failed", data={**data, "failure": run.failure})
    elif not run.ended:
        yield Finding(step=step, state=State.NOTE, code="run.under_way", data=data)
    else:
        yield Finding(step=step, state=State.OK, code="run.done", data=data)


def _rules(facts: Facts) -> Iterator[Finding]:
    if facts.run is None:
        return
    step, total = Checked.RULES, sum(facts.decided.values())
    lost = {verdict: facts.decided.get(verdict, 0) for verdict in _NOT_KEPT}
    kept = total - sum(lost.values())
    reasons: list[Json] = [
        {"stage": reason.stage, "code": reason.code, "rule": reason.rule_title or reason.rule, "count": reason.count}
        for reason in facts.reasons[:_MOST_REASONS]
    ]
    data: dict[str, Json] = {"total": total, "kept": kept, **lost, "reasons": reasons}
    if not total:
        if not facts.waiting:
            yield Finding(step=step, state=State.STOP, code="rules.nothing_new")
    elif kept:
        yield Finding(step=step, state=State.OK, code="rules.kept", data=data)
    else:
        all_known = lost["duplicate"] > lost["refused"]
        yield Finding(step=step, state=State.STOP, code="rules.duplicates" if all_known else "rules.refused", data=data)
    if facts.waiting:
        state = State.NOTE if total else State.STOP
        yield Finding(step=step, state=state, code="rules.waiting", data={"waiting": facts.waiting})


def _posts(facts: Facts) -> Iterator[Finding]:
    total = sum(facts.posts.values())
    if not total:
        return
    published = facts.posts.get("published", 0)
    # The most frequent state says where the posts are.
    most = max(facts.posts, key=lambda state: facts.posts[state])
    data: dict[str, Json] = {"total": total, "number": facts.posts[most], "published": published}
    if published:
        yield Finding(step=Checked.POSTS, state=State.OK, code="posts.published", data=data)
    else:
        yield Finding(step=Checked.POSTS, state=State.STOP, code=f"posts.{most}", data=data)
