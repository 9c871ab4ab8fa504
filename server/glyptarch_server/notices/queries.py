"""Reads about what people are told."""

from collections.abc import Mapping, Sequence
from datetime import datetime

from glyptarch_core.health import Health

from glyptarch_server.accounts.models import User
from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.campaigns.queries import listed_campaigns
from glyptarch_server.notices.models import CampaignAddress, Choice, Digest
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.models import Run
from glyptarch_server.runs.queries import by_last_run, last_runs
from glyptarch_server.sources.queries import listed_sources

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
_SAID = {
    Health.FAILING: "cannot be read",
    Health.GONE: "is gone: its server says that it will not come back",
    Health.CHANGED: "has changed what it gives",
    Health.QUIET: "has been silent for unusually long",
}


def choice_of(blog: Blog, user: User) -> Choice:
    """Give what a person wants to be told about a blog; nothing where the person has not chosen."""
    return Choice.objects.filter(blog=blog, user=user).first() or Choice(blog=blog, user=user)


def address_for(campaign: Campaign) -> str:
    """Give the address that is told of the runs of a campaign, if any."""
    return CampaignAddress.objects.filter(campaign=campaign).values_list("email", flat=True).first() or ""


def blogs_to_look_at() -> Sequence[Blog]:
    """Give the blogs of which anybody wants to be told anything."""
    rows = Blog.objects.filter(removed_at=None)
    chosen = Choice.objects.exclude(problems=False, posts=False, digest=Digest.NEVER).values("blog")
    addressed = CampaignAddress.objects.values("campaign__blog")
    return list(rows.filter(pk__in=chosen.union(addressed)).order_by("pk"))


def readers_of(blog: Blog) -> Sequence[Choice]:
    """Give the choices of those who work on a blog and have a mail address."""
    rows = Choice.objects.filter(blog=blog, user__is_active=True, user__memberships__blog=blog).exclude(user__email="")
    return list(rows.select_related("user").order_by("pk")[:_MOST])


def problems_now(blog: Blog) -> Mapping[str, str]:
    """Give what is wrong on a blog now: a sentence for each, by a key that stays the same while it lasts."""
    found: dict[str, str] = {}
    for source in listed_sources(blog).filter(health__in=[one.value for one in _SAID])[:_MOST]:
        detail = f" It says: {source.read_detail}" if source.read_detail else ""  # type: ignore[attr-defined]
        said = _SAID[Health(source.health)]
        found[f"source:{source.pk}:{source.health}"] = f"The source “{source.title}” {said}.{detail}"[:600]
    failed = list(by_last_run(listed_campaigns(blog), failed=True)[:_MOST])
    for run in last_runs(failed).values():
        found[f"campaign:{run.campaign_id}"] = f"The last run of “{run.campaign.name}” failed. {run.failure}"[:600]
    return found


def ended_runs(blog: Blog, since: datetime, until: datetime) -> Sequence[Run]:
    """Give the runs that ended within a time, earliest first; the first 500."""
    rows = Run.objects.filter(campaign__blog=blog, ended_at__gt=since, ended_at__lte=until)
    return list(rows.select_related("campaign__notice_address").order_by("ended_at", "pk")[:_MOST])


def posts_out(blog: Blog, since: datetime, until: datetime) -> Sequence[Post]:
    """Give the posts that went out within a time, earliest first; the first 500."""
    rows = Post.objects.filter(blog=blog, state="published", out_at__gt=since, out_at__lte=until)
    return list(rows.only("title", "slug", "blog", "campaign", "excerpt").order_by("out_at", "pk")[:_MOST])
