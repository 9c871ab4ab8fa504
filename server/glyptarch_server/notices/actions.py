"""Choosing notices, and sending them."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import transaction
from django.db.models import Q
from glyptarch_core.errors import Fault

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.common.address import public_address
from glyptarch_server.common.problems import Invalid
from glyptarch_server.mail.actions import send
from glyptarch_server.notices import messages, queries
from glyptarch_server.notices.messages import Message
from glyptarch_server.notices.models import CampaignAddress, Choice, Digest, Problem, Told
from glyptarch_server.posts.models import Post
from glyptarch_server.posts.queries import held_posts
from glyptarch_server.runs.models import Run

__all__ = ["choose", "set_campaign_address", "tell_all"]

_DIGEST_HOUR = 7
_ONE_BY_ONE = 20
_A_DAY = timedelta(days=1)
_SETTLED = timedelta(minutes=10)
"""How long is waited after the first problem, so that those that follow it stand in the same message."""
_KEPT = timedelta(days=30)


def choose(blog: Blog, user: User, *, problems: bool, posts: bool, digest: Digest) -> Choice:
    """Set the notices that a person gets about a blog."""
    values = {"problems": problems, "posts": posts, "digest": digest.value}
    return Choice.objects.update_or_create(blog=blog, user=user, defaults=values)[0]


def set_campaign_address(campaign: Campaign, email: str) -> None:
    """Set the address for notices about a campaign's runs.

    An empty one removes it. Raises Invalid.
    """
    address = email.strip()
    before = queries.address_for(campaign)
    with transaction.atomic():
        if not address:
            CampaignAddress.objects.filter(campaign=campaign).delete()
        else:
            try:
                validate_email(address)
            except ValidationError as error:
                message = f"“{address}” is no mail address. It looks like name@example.org."
                raise Invalid(message, faults=[Fault(path="email", message=message)]) from error
            CampaignAddress.objects.update_or_create(campaign=campaign, defaults={"email": address})
        record("campaign.address", campaign.name, blog=campaign.blog_id, before=before, after=address)


def tell_all(*, now: datetime) -> None:
    """Send the due notices of every blog."""
    for blog in queries.blogs_to_look_at():
        with transaction.atomic():
            _tell(blog, now=now)


def _desk(blog: Blog) -> str:
    return f"{public_address()}/desk/{blog.slug}/today"


def _link(post: Post, blog: Blog) -> str:
    return f"{public_address()}/blog/{blog.slug}/{post.slug}/"


def _tell(blog: Blog, *, now: datetime) -> None:
    today = now.astimezone(ZoneInfo(blog.time_zone)).date()
    # Concurrent workers are serialised; the second finds nothing to send.
    Blog.objects.select_for_update().get(pk=blog.pk)
    marker, _ = Told.objects.get_or_create(blog=blog, defaults={"until": now, "digest_day": today})
    readers = queries.readers_of(blog)
    _tell_problems(blog, [reader for reader in readers if reader.problems], now=now)
    runs = queries.ended_runs(blog, marker.until, now)
    posts = queries.posts_out(blog, marker.until, now)
    _tell_runs(blog, runs, [reader for reader in readers if reader.digest == Digest.RUNS])
    _tell_posts(blog, posts, [reader for reader in readers if reader.posts])
    hour = now.astimezone(ZoneInfo(blog.time_zone)).hour
    if marker.digest_day < today and hour >= _DIGEST_HOUR:
        _tell_day(blog, [reader for reader in readers if reader.digest == Digest.DAILY], now=now)
        marker.digest_day = today
    marker.until = now
    marker.save()


def _send_to(readers: Sequence[Choice], message: Message) -> None:
    for reader in readers:
        send(reader.user.email, message.subject, message.text)


def _tell_problems(blog: Blog, readers: Sequence[Choice], *, now: datetime) -> None:
    current = queries.problems_now(blog)
    open_problems = {row.key: row for row in Problem.objects.filter(blog=blog, passed_at=None)}
    new = {key: text for key, text in current.items() if key not in open_problems}
    passed = [row for key, row in open_problems.items() if key not in current]
    Problem.objects.bulk_create([Problem(blog=blog, key=key, text=text, since=now) for key, text in new.items()])
    Problem.objects.filter(pk__in=[row.pk for row in passed]).update(passed_at=now)
    first = min((reader.problems_until or now - _KEPT for reader in readers), default=now)
    rows = list(Problem.objects.filter(Q(passed_at=None) | Q(passed_at__gt=first), blog=blog).order_by("since", "pk"))
    for reader in readers:
        _tell_reader(blog, reader, rows, now=now)


def _tell_reader(blog: Blog, reader: Choice, rows: Sequence[Problem], *, now: datetime) -> None:
    """Send a person what is new and what has passed since the last message, at most once a day.

    What has stopped a whole campaign is told at once. A problem that came and went in between is not told.
    """
    told = reader.problems_until
    new = [row for row in rows if row.passed_at is None and (told is None or row.since > told)]
    passed = [row for row in rows if row.passed_at and told and row.passed_at > told and row.since <= told]
    urgent = [row for row in new if row.is_urgent and (not reader.urgent_until or row.since > reader.urgent_until)]
    # A reader of the daily digest finds them there.
    due = reader.digest != Digest.DAILY and (told is None or now - told >= _A_DAY)
    settled = any(now - (row.passed_at or row.since) >= _SETTLED for row in [*new, *passed])
    if due and settled:
        texts = [row.text for row in passed]
        reader.problems_until = reader.urgent_until = now
    elif urgent:
        new, texts = urgent, []
        reader.urgent_until = now
    else:
        return
    reader.save(update_fields=["problems_until", "urgent_until"])
    _send_to([reader], messages.about_problems(blog.title, [row.text for row in new], texts, desk=_desk(blog)))


def _tell_runs(blog: Blog, runs: Sequence[Run], readers: Sequence[Choice]) -> None:
    worth = [run for run in runs if run.failure or run.verdicts]
    reports = {run.pk: (run.campaign.name, run.verdicts, run.failure) for run in worth}
    if reports:
        _send_to(readers, messages.about_runs(blog.title, list(reports.values()), desk=_desk(blog)))
    for run in worth:
        address = getattr(getattr(run.campaign, "notice_address", None), "email", "")
        message = messages.about_runs(blog.title, [reports[run.pk]], desk=_desk(blog))
        send(address, message.subject, message.text)


def _tell_posts(blog: Blog, posts: Sequence[Post], readers: Sequence[Choice]) -> None:
    for post in posts[:_ONE_BY_ONE]:
        _send_to(readers, messages.about_post(blog.title, post.title, post.excerpt, _link(post, blog)))
    if rest := posts[_ONE_BY_ONE:]:
        listed = [(post.title, _link(post, blog)) for post in rest]
        _send_to(readers, messages.about_posts(blog.title, listed, desk=_desk(blog)))


def _tell_day(blog: Blog, readers: Sequence[Choice], *, now: datetime) -> None:
    if not readers:
        return
    posts = [(post.title, _link(post, blog)) for post in queries.posts_out(blog, now - timedelta(days=1), now)]
    problems = list(queries.problems_now(blog).values())
    _send_to(readers, messages.daily(blog.title, posts, held_posts(blog).count(), problems, desk=_desk(blog)))
