"""The addresses that hubs call."""

from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_exempt

from glyptarch_server import wiring
from glyptarch_server.websub import actions, queries

__all__ = ["callback"]


@csrf_exempt  # A hub has no session; it authenticates by the key in the address and by its signature.
def callback(request: HttpRequest, key: str) -> HttpResponse:
    """Answer a hub's verification, or receive its push."""
    row = queries.of_key(key)
    if row is None:
        raise Http404
    now = wiring.clock()()
    if request.method == "POST":
        actions.take_push(
            row,
            request.body,
            content_type=request.headers.get("Content-Type", "")[:200],
            signature=request.headers.get("X-Hub-Signature", "")[:300],
            now=now,
        )
        # A hub learns nothing about the use of its push (WebSub 7).
        return HttpResponse(status=202)
    query = request.GET
    topic, mode = query.get("hub.topic", ""), query.get("hub.mode", "")
    if mode == "denied" and actions.denied(row, topic=topic, reason=query.get("hub.reason", "")):
        return HttpResponse(status=200)
    challenge = query.get("hub.challenge", "")
    lease = query.get("hub.lease_seconds", "")
    if mode == "subscribe" and challenge and actions.verified(row, topic=topic, lease_seconds=lease, now=now):
        return HttpResponse(challenge, content_type="text/plain; charset=utf-8")
    if mode == "unsubscribe" and challenge and actions.ended(row, topic=topic):
        return HttpResponse(challenge, content_type="text/plain; charset=utf-8")
    raise Http404
