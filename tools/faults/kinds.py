"""The kinds of long work: how each begins, and what must hold when it has ended."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, timedelta
from typing import Any

from glyptarch_core.campaign import load_document
from glyptarch_core.item import Item as CoreItem
from glyptarch_core.item import Media, MediaKind, MediaOrigin
from glyptarch_server.archives.actions import begin_walk
from glyptarch_server.archives.models import Walk
from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.actions import create_campaign, save_revision
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.items.capturing import capture
from glyptarch_server.items.models import Item
from glyptarch_server.items.page_pictures import ask_pages
from glyptarch_server.media.actions import ask_for_pictures, ask_for_recordings
from glyptarch_server.media.models import PictureCopy, Recording
from glyptarch_server.posts.changes import Action, begin_change
from glyptarch_server.posts.models import Post, PostChange
from glyptarch_server.replay.actions import begin_replay
from glyptarch_server.replay.applying import begin_applying
from glyptarch_server.replay.models import Replay, ReplayResult
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.deletion import ask_to_delete
from glyptarch_server.runs.models import Decision
from glyptarch_server.sources.models import FullText, Source
from glyptarch_server.tasks.models import Task

from tools.faults.site import NUMBER_OF_OLDER_ITEMS, RECORDING_SIZE

__all__ = ["KINDS", "Round"]

_ITEMS = 400
_FETCHED = 60


def _now() -> datetime:
    return datetime.now(UTC)


@dataclass
class Round:
    """What one round works with: a source and a campaign of its own on the blog."""

    blog: Blog
    site: str
    number: int
    campaign: Campaign = field(init=False)
    source: Source = field(init=False)

    def __post_init__(self) -> None:
        """Capture stories whose pages and pictures are at the slow site."""
        self.base = f"{self.site}/r{self.number}"
        self.source = Source.objects.create(
            blog=self.blog,
            key=f"r{self.number}",
            url=f"{self.base}/feed",
            title=f"Round {self.number}",
            added_at=_now(),
        )
        items = [self._story(number) for number in range(_ITEMS)]
        capture(self.source, items, now=_now())
        # Only what was captured counts, so the run itself reads nothing.
        Source.objects.filter(pk=self.source.pk).update(paused=True)
        self.campaign = create_campaign(
            self.blog, f"Round {self.number}", load_document(self.rules()), by=None, now=_now()
        )

    def rules(self, **parts: Any) -> dict[str, Any]:  # noqa: ANN401
        """Return rules that publish everything."""
        return {
            "gather": {"sources": [self.source.key]},
            "match": {"rules": []},
            "release": {"mode": "publish"},
            **parts,
        }

    def _story(self, number: int) -> CoreItem:
        return CoreItem(
            source=self.source.key,
            identity=f"{self.number}-{number}",
            link=f"{self.base}/article/{number}",
            title=f"Story {number} of round {self.number}",
            body=f"<p>Words of story {number}, told in the field by the dome.</p>",
            published=_now() - timedelta(minutes=number),
            media=(Media(url=f"{self.base}/picture/{number}.png", kind=MediaKind.PICTURE, origin=MediaOrigin.FEED),),
        )

    def posts(self) -> Any:  # noqa: ANN401 - a query of posts
        """Return the posts of the round."""
        return Post.objects.filter(campaign=self.campaign)


@dataclass(frozen=True)
class FaultKind:
    """One kind: ``begin`` gives its task, ``faults`` what does not hold at its end."""

    name: str
    begin: Callable[[Round], int]
    faults: Callable[[Round], Iterator[str]]


def _differs(what: str, is_now: object, wanted: object) -> Iterator[str]:
    if is_now != wanted:
        yield f"{what}: {is_now}, not {wanted}"


def _run(world: Round) -> int:
    return begin_run(world.campaign, by=None, now=_now()).task_id or 0


def _run_faults(world: Round) -> Iterator[str]:
    decisions = Decision.objects.filter(campaign=world.campaign)
    yield from _differs("decisions", decisions.count(), _ITEMS)
    yield from _differs("posts", world.posts().count(), _ITEMS)
    yield from _differs("items with a post", world.posts().values("item").distinct().count(), _ITEMS)


def _replay(world: Round) -> int:
    changed = load_document(world.rules(place={"category": f"Sky {world.number}"}))
    revision = save_revision(world.campaign, changed, base=1, by=None, note="", now=_now())
    return begin_replay(world.campaign, revision, by=None, now=_now()).task_id or 0


def _replay_faults(world: Round) -> Iterator[str]:
    replay = Replay.objects.get(campaign=world.campaign)
    yield from _differs("state", replay.state, "ready")
    yield from _differs("items compared", replay.done, _ITEMS)
    yield from _differs("counts", replay.counts, {"changed": _ITEMS})
    yield from _differs("results", ReplayResult.objects.filter(replay=replay).count(), _ITEMS)


def _apply(world: Round) -> int:
    replay = Replay.objects.select_related("campaign__blog", "revision").get(campaign=world.campaign)
    begin_applying(replay, outcomes=("changed",), results=(), by=None, now=_now())
    replay.refresh_from_db()
    return replay.task_id or 0


def _apply_faults(world: Round) -> Iterator[str]:
    replay = Replay.objects.get(campaign=world.campaign)
    yield from _differs("state", replay.state, "ready")
    yield from _differs("posts filed", world.posts().filter(category__name=f"Sky {world.number}").count(), _ITEMS)
    yield from _differs("changes of posts", PostChange.objects.filter(change=replay.change_id).count(), _ITEMS)


def _change(world: Round) -> int:
    numbers = list(world.posts().values_list("pk", flat=True))
    what = {"add": [f"round {world.number}"]}
    return begin_change(world.blog, Action.TAGS, what, numbers, now=_now()).task_id or 0


def _change_faults(world: Round) -> Iterator[str]:
    posts = world.posts()
    yield from _differs("posts tagged", posts.filter(tags__name=f"round {world.number}").count(), _ITEMS)
    changes = PostChange.objects.filter(post__in=posts.values("pk"), after__has_key="tags")
    yield from _differs("changes of posts", changes.count(), _ITEMS)


def _older(world: Round) -> int:
    return begin_walk(world.source, floor=date(2020, 1, 1), pattern="", by=None, now=_now()).task_id or 0


def _older_faults(world: Round) -> Iterator[str]:
    walk = Walk.objects.get(source=world.source)
    yield from _differs("state", walk.state, "done")
    yield from _differs("items found", walk.found, NUMBER_OF_OLDER_ITEMS)
    items = Item.objects.filter(source=world.source).count()
    yield from _differs("items", items, _ITEMS + NUMBER_OF_OLDER_ITEMS)


def _texts(world: Round) -> int:
    Item.objects.filter(source=world.source).update(page_asked_at=_now())
    some = Item.objects.filter(source=world.source, link__contains="/article/").order_by("pk").values("pk")[:_FETCHED]
    Item.objects.filter(pk__in=list(some.values_list("pk", flat=True))).update(page_asked_at=None)
    FullText.objects.update_or_create(source=world.source, defaults={"words": 10})
    world.source.refresh_from_db()
    ask_pages(world.source, again=False, by=None, now=_now())
    return Task.objects.get(kind="texts", ref=world.source.pk).pk


def _texts_faults(world: Round) -> Iterator[str]:
    yield from _differs("pages taken", Item.objects.filter(source=world.source, page="taken").count(), _FETCHED)
    yield from _differs("pages left", Item.objects.filter(source=world.source, page_asked_at=None).count(), 0)


def _pictures(world: Round) -> int:
    posts = list(world.posts().order_by("pk").values_list("pk", flat=True)[:_FETCHED])
    shown = [(post, [f"{world.base}/picture/{number}.png"]) for number, post in enumerate(posts)]
    ask_for_pictures(world.blog, shown, now=_now())
    return Task.objects.get(kind="pictures", ref=world.blog.pk, ended_at=None).pk


def _pictures_faults(world: Round) -> Iterator[str]:
    copies = PictureCopy.objects.filter(url__startswith=f"{world.base}/")
    yield from _differs("copies kept", copies.filter(state="kept").count(), _FETCHED)


def _recording(world: Round) -> int:
    post = world.posts().earliest("pk").pk
    ask_for_recordings(world.blog, [(post, [f"{world.base}/film.mp4"])], most_bytes=50 << 20, now=_now())
    return Task.objects.get(kind="recording", ref=Recording.objects.get(url__startswith=world.base).pk).pk


def _recording_faults(world: Round) -> Iterator[str]:
    recording = Recording.objects.get(url__startswith=world.base)
    yield from _differs("recording", (recording.state, recording.size), ("kept", RECORDING_SIZE))


def _deletion(world: Round) -> int:
    ask_to_delete(world.campaign, by=None, now=_now())
    return Task.objects.get(kind="deletion", ref=world.campaign.pk).pk


def _deletion_faults(world: Round) -> Iterator[str]:
    yield from _differs("campaigns", Campaign.objects.filter(pk=world.campaign.pk).count(), 0)
    yield from _differs("posts", Post.objects.filter(source=world.source).count(), 0)
    yield from _differs("decisions", Decision.objects.filter(item__source=world.source).count(), 0)


KINDS = (
    FaultKind("run", _run, _run_faults),
    FaultKind("replay", _replay, _replay_faults),
    FaultKind("apply", _apply, _apply_faults),
    FaultKind("change", _change, _change_faults),
    FaultKind("older", _older, _older_faults),
    FaultKind("texts", _texts, _texts_faults),
    FaultKind("pictures", _pictures, _pictures_faults),
    FaultKind("recording", _recording, _recording_faults),
    FaultKind("deletion", _deletion, _deletion_faults),
)
