"""Taking back a whole run, and running a campaign again from nothing."""

from collections.abc import Collection
from datetime import datetime

from django.db import transaction

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.problems import Conflict
from glyptarch_server.posts.actions import forget_items
from glyptarch_server.posts.changes import Action, begin_change
from glyptarch_server.posts.lifecycle import AT_THE_DESK
from glyptarch_server.posts.models import Change, Post
from glyptarch_server.posts.queries import Touched, touched
from glyptarch_server.runs import queries
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.models import Decision, Run

__all__ = ["again_from_nothing", "take_back_run", "would_go", "would_go_with"]

_AT_ONCE = 2000


def _made_by(run: Run) -> list[int]:
    posts = Post.objects.filter(decision__run=run, state__in=AT_THE_DESK)
    return list(posts.values_list("pk", flat=True))


def _made_for(campaign: Campaign) -> list[int]:
    """Return a campaign's posts at the desk and published.

    Refused ones stay as markers.
    """
    posts = Post.objects.filter(campaign=campaign, state__in=AT_THE_DESK).exclude(state="refused")
    return list(posts.values_list("pk", flat=True))


def would_go(run: Run) -> Touched:
    """Return counts of the posts removed by undoing a run."""
    return touched(run.campaign.blog, _made_by(run))


def would_go_with(campaign: Campaign) -> Touched:
    """Return counts of the posts removed by importing a campaign again."""
    return touched(campaign.blog, _made_for(campaign))


def _locked(campaign: Campaign) -> Campaign:
    row = Campaign.objects.select_for_update(of=("self",)).select_related("blog").get(pk=campaign.pk)
    if queries.active_run(row) is not None:
        raise Conflict("A run is under way. Wait for its end, or stop it first.")
    return row


def take_back_run(run: Run, *, spare: bool, now: datetime) -> Change:
    """Bin the posts of a run without markers, and let all its items be undecided again.

    With ``spare`` posts stay that people have edited or commented. Gives the change, which can be taken back; what the
    run refused is decided anew by the next run then. Raises Conflict while a run is under way, or when it was done
    before.
    """
    with transaction.atomic():
        campaign = _locked(run.campaign)
        row = Run.objects.select_for_update(of=("self",)).get(pk=run.pk)
        if row.taken_back_at is not None:
            raise Conflict("This run was taken back already.")
        change = _bin(campaign, _made_by(row), spare=spare, now=now)
        _forget(campaign, Decision.objects.filter(run=row, post=None).values_list("item", flat=True))
        row.taken_back_at = now
        row.save(update_fields=["taken_back_at"])
        record("run.taken_back", campaign.name, blog=campaign.blog_id, before=row.pk, after={"spare": spare})
    return change


def again_from_nothing(campaign: Campaign, *, by: User | None, spare: bool, now: datetime) -> tuple[Change, Run]:
    """Bin all posts of a campaign without markers, forget what became of its items, and run it.

    What people refused stays refused. Raises Conflict while a run is under way.
    """
    with transaction.atomic():
        row = _locked(campaign)
        change = _bin(row, _made_for(row), spare=spare, now=now)
        _forget(row, Decision.objects.filter(campaign=row, post=None).values_list("item", flat=True))
        record("campaign.again_from_nothing", row.name, blog=row.blog_id, after={"spare": spare})
        # The run's job waits for the change: both hold the campaign's lock, and this one is later.
        return change, begin_run(row, by=by, now=now)


def _bin(campaign: Campaign, posts: Collection[int], *, spare: bool, now: datetime) -> Change:
    what = {"marker": False, "spare": spare}
    lock = queries.lock_of(campaign.pk)
    return begin_change(campaign.blog, Action.BIN, what, posts, subject=campaign.name, now=now, lock=lock)


def _forget(campaign: Campaign, items: Collection[int]) -> None:
    """Forget the decisions of items without a post, and their keys as duplicates."""
    numbers = list(items)
    for first in range(0, len(numbers), _AT_ONCE):
        some = numbers[first : first + _AT_ONCE]
        forget_items(campaign, some)
        Decision.objects.filter(campaign=campaign, item__in=some, post=None).delete()
