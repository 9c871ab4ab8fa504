"""Reads about subscriptions."""

from collections.abc import Sequence
from datetime import datetime, timedelta

from django.db.models import DateTimeField, DurationField, ExpressionWrapper, F, Q, QuerySet, Value
from django.db.models.functions import Least, Power

from glyptarch_server.sources.models import Source
from glyptarch_server.websub.models import PushState, Subscription

__all__ = ["PushState", "left_ending", "of_key", "of_source", "sources_to_subscribe", "to_ask_again", "to_end"]

_AT_ONCE = 50
_RENEWED_BEFORE = timedelta(days=1)
_VERIFIED_WITHIN = timedelta(minutes=10)
_MOST_TRIES = 8


def of_key(key: str) -> Subscription | None:
    """Return the subscription with a callback key.

    None for none.
    """
    return Subscription.objects.filter(key=key).select_related("source").first()


def of_source(source: Source) -> Subscription | None:
    """Return the subscription of a source.

    None for none.
    """
    return Subscription.objects.filter(source=source).first()


def sources_to_subscribe() -> Sequence[Source]:
    """Return sources whose hub has not been asked yet, or has changed."""
    rows = Source.objects.filter(removed_at=None, paused=False, blog__removed_at=None).exclude(state__hub="")
    new = Q(subscription=None) | ~Q(subscription__hub=F("state__hub")) | ~Q(subscription__topic=F("state__topic"))
    # One at a former hub ends first.
    at_work = Q(subscription__state__in=[PushState.VERIFIED, PushState.ENDING])
    return list(rows.filter(new).exclude(at_work).select_related("subscription").order_by("pk")[:_AT_ONCE])


def to_end() -> Sequence[Subscription]:
    """Return subscriptions of sources that are not read any more, or that name another hub."""
    not_read = Q(source__paused=True) | ~Q(source__removed_at=None) | ~Q(source__blocked_at=None)
    elsewhere = ~Q(hub=F("source__state__hub")) | ~Q(topic=F("source__state__topic"))
    rows = Subscription.objects.filter(not_read | ~Q(source__blog__removed_at=None) | elsewhere)
    return list(rows.filter(state=PushState.VERIFIED).select_related("source").order_by("pk")[:_AT_ONCE])


def left_ending(now: datetime) -> QuerySet[Subscription]:
    """Return subscriptions whose end no hub has confirmed in time."""
    return Subscription.objects.filter(state=PushState.ENDING, asked_at__lt=now - _VERIFIED_WITHIN)


def to_ask_again(now: datetime) -> Sequence[Subscription]:
    """Return subscriptions in the last third or day of their lease, and unverified ones.

    The latter with growing pauses.
    """
    lease = ExpressionWrapper(F("lease_ends_at") - F("asked_at"), DurationField())
    third = ExpressionWrapper(lease * Value(1 / 3), DurationField())
    left = ExpressionWrapper(F("lease_ends_at") - now, DurationField())
    ending = Q(state=PushState.VERIFIED, asked_at__lt=now - _VERIFIED_WITHIN, left__lt=Least(third, _RENEWED_BEFORE))
    pause = Value(_VERIFIED_WITHIN, output_field=DurationField()) * Power(2.0, F("tries"))
    due = ExpressionWrapper(F("asked_at") + ExpressionWrapper(pause, DurationField()), DateTimeField())
    waiting = Q(state__in=[PushState.ASKED, PushState.REFUSED], tries__lt=_MOST_TRIES, due__lt=now)
    rows = Subscription.objects.annotate(due=due, left=left).filter(ending | waiting)
    # Feeds without a hub and sources that must not be read are left out.
    rows = rows.filter(source__removed_at=None, source__paused=False, source__blocked_at=None)
    rows = rows.exclude(source__state__hub="")
    # Expiring leases first, because fifty refusing hubs must not delay them.
    return list(rows.select_related("source").order_by(F("lease_ends_at").asc(nulls_last=True), "due")[:_AT_ONCE])
