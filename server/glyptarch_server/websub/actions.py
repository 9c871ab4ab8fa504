"""Subscribing at WebSub hubs, and receiving their pushes."""

import hashlib
import hmac
import secrets
from datetime import datetime, timedelta

from django.db import transaction
from django.db.models import F
from glyptarch_core.errors import ParseError
from glyptarch_core.text import clean_line

from glyptarch_server import wiring
from glyptarch_server.common.address import public_address
from glyptarch_server.common.seal import seal, unseal
from glyptarch_server.items.actions import keep_answer
from glyptarch_server.sources.gathering import SourceAnswer
from glyptarch_server.sources.models import Source
from glyptarch_server.sources.readings import lock_sources, set_pushed_until
from glyptarch_server.websub import queries
from glyptarch_server.websub.models import PushState, Subscription
from glyptarch_server.wiring import FetchError, FetchPortal, FetchRequest, RawFeed

__all__ = ["care", "denied", "ended", "take_push", "verified"]

_LEASE = timedelta(days=10)
_LONGEST_REASON = 300
_HASHES = {"sha1": hashlib.sha1, "sha256": hashlib.sha256, "sha384": hashlib.sha384, "sha512": hashlib.sha512}


def care(*, fetcher: FetchPortal, now: datetime) -> int:
    """Subscribe new feeds and renew leases.

    Return how many hubs were asked. Needs a public address.
    """
    if not public_address():
        return 0
    _end_some(fetcher, now)
    asked = [_prepared(source, now) for source in queries.sources_to_subscribe()]
    asked += list(queries.to_ask_again(now))
    # The hub may verify or deny before its answer has arrived, so nothing of the answer overwrites what it said.
    rows = Subscription.objects.filter(pk__in=[row.pk for row in asked])
    rows.update(asked_at=now, tries=F("tries") + 1, failure="")
    answers = fetcher.fetch_all([_request(row) for row in asked])
    for row, answer in zip(asked, answers, strict=True):
        if isinstance(answer, FetchError):
            this = Subscription.objects.filter(pk=row.pk)
            this.filter(failure="").update(failure=str(answer)[:500])
            this.exclude(state=PushState.VERIFIED).update(state=PushState.REFUSED)
    return len(asked)


def _end_some(fetcher: FetchPortal, now: datetime) -> None:
    """Ask hubs to end what is not wanted any more (WebSub 5.1).

    What they do not confirm is forgotten.
    """
    queries.left_ending(now).delete()
    rows = queries.to_end()
    Subscription.objects.filter(pk__in=[row.pk for row in rows]).update(state=PushState.ENDING, asked_at=now)
    for row in rows:
        set_pushed_until(row.source, None)
    if rows:
        fetcher.fetch_all([_request(row, mode="unsubscribe") for row in rows])


def _prepared(source: Source, now: datetime) -> Subscription:
    """Create the subscription of a source, with its own key and secret."""
    values = {
        "hub": source.state.hub,
        "topic": source.state.topic,
        "key": secrets.token_urlsafe(32),
        "secret_sealed": seal(secrets.token_urlsafe(32)),
        "state": PushState.ASKED,
        "asked_at": now,
        "tries": 0,
        "lease_ends_at": None,
        "failure": "",
    }
    return Subscription.objects.update_or_create(source=source, defaults=values)[0]


def _request(row: Subscription, *, mode: str = "subscribe") -> FetchRequest:
    """Return the request to a hub to begin or end a subscription (WebSub 5.1)."""
    form = {
        "hub.mode": mode,
        "hub.topic": row.topic,
        "hub.callback": f"{public_address()}/websub/{row.key}",
        "hub.lease_seconds": str(int(_LEASE.total_seconds())),
        "hub.secret": unseal(row.secret_sealed),
    }
    return FetchRequest(url=row.hub, form=tuple(form.items()))


def verified(row: Subscription, *, topic: str, lease_seconds: str, now: datetime) -> bool:
    """Record a hub's verification (WebSub 5.3).

    Return whether it matches our request.
    """
    if topic != row.topic or row.state == PushState.ENDING or row.source.removed_at is not None:
        return False
    seconds = int(lease_seconds) if lease_seconds.isascii() and lease_seconds.isdecimal() else 0
    lease = min(timedelta(seconds=min(seconds, 10**9)), _LEASE) if seconds else _LEASE
    with transaction.atomic():
        row.state, row.lease_ends_at, row.tries, row.failure = PushState.VERIFIED, now + lease, 0, ""
        row.save(update_fields=["state", "lease_ends_at", "tries", "failure"])
        if row.source.state.pushed_until is not None:
            # It pushes; a hub that has pushed nothing yet slows no polling down.
            set_pushed_until(row.source, now + lease)
    return True


def ended(row: Subscription, *, topic: str) -> bool:
    """Confirm to a hub that a subscription is to end (WebSub 5.3), and forget it.

    Return whether we asked for that.
    """
    if topic != row.topic or row.state != PushState.ENDING:
        return False
    row.delete()
    return True


def denied(row: Subscription, *, topic: str, reason: str) -> bool:
    """Record a hub's refusal (WebSub 5.2) and return to polling.

    Return whether the topic matches.
    """
    if topic != row.topic:
        return False
    with transaction.atomic():
        said = clean_line(reason, _LONGEST_REASON)
        row.state, row.failure = PushState.REFUSED, f"The hub does not want it. {said}".strip()
        row.save(update_fields=["state", "failure"])
        set_pushed_until(row.source, None)
    return True


def _signature_holds(row: Subscription, body: bytes, sent_signature: str) -> bool:
    """Whether a push was signed with the secret shared with the hub (WebSub 7)."""
    method, _, signature = sent_signature.partition("=")
    algorithm = _HASHES.get(method.strip().lower())
    if algorithm is None:
        return False
    expected = hmac.new(unseal(row.secret_sealed).encode(), body, algorithm).hexdigest()
    return hmac.compare_digest(expected.encode(), signature.strip().lower().encode("utf-8", "replace"))


def take_push(row: Subscription, body: bytes, *, content_type: str, signature: str, now: datetime) -> int:
    """Capture a hub's push.

    Return the number of new items. Pushes are dropped when their signature is wrong, the subscription is not verified,
    or the source is paused, withdrawn or removed.
    """
    if not _signature_holds(row, body, signature):
        Subscription.objects.filter(pk=row.pk).update(bad_pushes=row.bad_pushes + 1)
        return 0
    source = row.source
    if row.state != PushState.VERIFIED or source.paused:
        return 0
    raw = RawFeed(body=body, source=source.key, url=source.url, content_type=content_type)
    try:
        outcome = wiring.apart().read_feed(raw)
    except ParseError as error:
        row.failure = f"What the hub pushed cannot be read: {error}"[:500]
        row.save(update_fields=["failure"])
        return 0
    with transaction.atomic():
        if not lock_sources([source]):
            return 0
        reading = keep_answer(source, SourceAnswer(outcome=outcome, size=len(body), pushed=True), now=now)
        row.pushed_at, row.failure = now, ""
        row.save(update_fields=["pushed_at", "failure"])
        set_pushed_until(source, row.lease_ends_at)
    return reading.fresh
