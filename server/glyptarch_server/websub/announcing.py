"""Announcing new posts to the hub of a blog.

WebSub leaves the form of a notice open; ``hub.mode=publish`` is what hubs share.
"""

from collections.abc import Mapping
from datetime import datetime, timedelta

from glyptarch_core.editions import languages_of

from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.address import public_address
from glyptarch_server.websub.models import HubNotice
from glyptarch_server.wiring import FetchError, FetchPortal, FetchRequest

__all__ = ["announce", "blogs_with_hub", "failure_of_hub"]

_FEEDS = ("feed.xml", "atom.xml", "feed.json")
_PAUSES = (timedelta(minutes=1), timedelta(minutes=5), timedelta(minutes=30), timedelta(hours=6))
_MOST_BLOGS = 500
# Of a blog whose hub was never told, what went out within this time is new.
_NEW = timedelta(minutes=5)


def blogs_with_hub() -> list[Blog]:
    """Return the blogs whose hub is to be told of new posts.

    None without a public address of this installation.
    """
    if not public_address():
        return []
    return list(Blog.objects.filter(removed_at=None).exclude(hub="").order_by("pk")[:_MOST_BLOGS])


def announce(newest: Mapping[Blog, datetime], *, fetcher: FetchPortal, now: datetime) -> int:
    """Announce the posts of blogs whose newest went out after the last notice.

    Return how many hubs took it. A hub that fails is asked again after a minute, then after longer pauses. The first
    time, what went out more than five minutes ago is taken as told.
    """
    known = {notice.blog_id: notice for notice in HubNotice.objects.filter(blog__in=newest)}
    HubNotice.objects.bulk_create(
        [HubNotice(blog=blog, told_until=now - _NEW, asked_at=now) for blog in newest if blog.pk not in known],
        ignore_conflicts=True,
    )
    due = {
        blog: notice
        for blog, at in newest.items()
        if (notice := known.get(blog.pk)) is not None and at > notice.told_until and _may_ask(blog, notice, now)
    }
    answers = fetcher.fetch_all([_request(blog) for blog in due])
    for (blog, notice), answer in zip(due.items(), answers, strict=True):
        notice.asked_at, notice.hub = now, blog.hub
        if isinstance(answer, FetchError):
            notice.tries, notice.failure = min(notice.tries + 1, len(_PAUSES)), str(answer)[:500]
        else:
            notice.tries, notice.failure, notice.told_until = 0, "", newest[blog]
    HubNotice.objects.bulk_update(due.values(), ["asked_at", "hub", "tries", "failure", "told_until"])
    return sum(not notice.failure for notice in due.values())


def failure_of_hub(blog: Blog) -> str:
    """Return why the hub of a blog did not take the last notice.

    Empty where it did, or where there is none.
    """
    if not blog.hub:
        return ""
    failures = HubNotice.objects.filter(blog=blog, hub=blog.hub).values_list("failure", flat=True)
    return failures.first() or ""


def _may_ask(blog: Blog, notice: HubNotice, now: datetime) -> bool:
    return not notice.tries or notice.hub != blog.hub or now >= notice.asked_at + _PAUSES[notice.tries - 1]


def _request(blog: Blog) -> FetchRequest:
    homes = [blog.root, *(f"{blog.root}{language.tag}/" for language in languages_of(blog.languages).languages)]
    feeds = (f"{public_address()}{home}{name}" for home in homes for name in _FEEDS)
    return FetchRequest(url=blog.hub, form=(("hub.mode", "publish"), *(("hub.url", feed) for feed in feeds)))
