"""Queries about notices."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from zoneinfo import ZoneInfo

from glyptarch_core.health import Health

from glyptarch_server.accounts.models import User
from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.campaigns.queries import campaigns_only_on, listed_campaigns
from glyptarch_server.notices.messages import trouble_words
from glyptarch_server.notices.models import CampaignAddress, Choice, Digest
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.models import Run
from glyptarch_server.runs.queries import by_last_run, last_runs
from glyptarch_server.sources.queries import troubles_of

__all__ = [
    "Digest",
    "address_for",
    "blogs_to_look_at",
    "choice_of",
    "ended_runs",
    "posts_out",
    "problems_now",
    "readers_of",
]

_MOST = 500
_STOPS = (Health.GONE, Health.FAILING)


def choice_of(blog: Blog, user: User) -> Choice:
    """Return the notices chosen by a person.

    None by default.
    """
    return Choice.objects.filter(blog=blog, user=user).first() or Choice(blog=blog, user=user)


def address_for(campaign: Campaign) -> str:
    """Return the address notified of a campaign's runs.

    Empty for none.
    """
    return CampaignAddress.objects.filter(campaign=campaign).values_list("email", flat=True).first() or ""


def blogs_to_look_at() -> Sequence[Blog]:
    """Return the blogs with at least one chosen notice."""
    rows = Blog.objects.filter(removed_at=None)
    chosen = Choice.objects.exclude(problems=False, posts=False, digest=Digest.NEVER).values("blog")
    addressed = CampaignAddress.objects.values("campaign__blog")
    return list(rows.filter(pk__in=chosen.union(addressed)).order_by("pk"))


def readers_of(blog: Blog) -> Sequence[Choice]:
    """Return the choices of members of a blog with a mail address."""
    rows = Choice.objects.filter(blog=blog, user__is_active=True, user__memberships__blog=blog).exclude(user__email="")
    return list(rows.select_related("user").order_by("pk")[:_MOST])


def problems_now(blog: Blog) -> Mapping[str, str]:
    """Return the present problems of a blog as sentences, by key.

    A key stays the same while its problem lasts.
    """
    problems: dict[str, str] = {}
    troubles = troubles_of(blog)
    zone = ZoneInfo(blog.time_zone)
    for trouble in troubles[:_MOST]:
        problems[trouble.key] = trouble_words(trouble, zone)[:600]
    lost = {key for trouble in troubles if trouble.health in _STOPS for key, _ in trouble.sources}
    for campaign in campaigns_only_on(blog, lost) if lost else []:
        problems[f"stopped:{campaign.pk}"] = (
            f"“{campaign.name}” gets nothing any more: none of its sources can be read."
        )
    failed = list(by_last_run(listed_campaigns(blog), failed=True)[:_MOST])
    for run in last_runs(failed).values():
        problems[f"campaign:{run.campaign_id}"] = f"The last run of “{run.campaign.name}” failed. {run.failure}"[:600]
    return problems


def ended_runs(blog: Blog, since: datetime, until: datetime) -> Sequence[Run]:
    """Return the first 500 runs that ended in a time range, earliest first."""
    rows = Run.objects.filter(campaign__blog=blog, ended_at__gt=since, ended_at__lte=until)
    return list(rows.select_related("campaign__notice_address").order_by("ended_at", "pk")[:_MOST])


def posts_out(blog: Blog, since: datetime, until: datetime) -> Sequence[Post]:
    """Return the first 500 posts published in a time range, earliest first."""
    rows = Post.objects.filter(blog=blog, state="published", out_at__gt=since, out_at__lte=until)
    return list(rows.only("title", "slug", "blog", "campaign", "excerpt").order_by("out_at", "pk")[:_MOST])
