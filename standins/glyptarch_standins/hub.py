"""The WebSub hub of the simulated world, which verifies subscribers and signs its pushes."""

import hashlib
import hmac
import secrets
from dataclasses import dataclass, field

from aiohttp import ClientError, ClientSession, ClientTimeout

__all__ = ["HUB_FAULTS", "Hub"]

HUB_FAULTS = {
    "silent": "takes subscriptions and never pushes",
    "lies": "signs with a wrong secret",
    "refuses": "denies every subscription",
}
_SECONDS = ClientTimeout(total=10)


@dataclass(slots=True)
class Hub:
    """The subscriptions of a hub: callback and secret, by topic."""

    subscribers: dict[str, dict[str, str]] = field(default_factory=dict)
    fault: str = ""
    pushed: int = 0
    # The feeds that publishers said have changed.
    told: list[str] = field(default_factory=list)

    async def subscribe(self, topic: str, callback: str, secret: str, lease_seconds: str) -> bool:
        """Verify a subscriber, and store it when it answers with the challenge (WebSub 5.3)."""
        challenge = secrets.token_hex(8)
        query = {
            "hub.mode": "subscribe",
            "hub.topic": topic,
            "hub.challenge": challenge,
            "hub.lease_seconds": lease_seconds,
        }
        if self.fault == "refuses":
            query = {"hub.mode": "denied", "hub.topic": topic, "hub.reason": "Not today."}
        try:
            async with ClientSession(timeout=_SECONDS) as session, session.get(callback, params=query) as answer:
                agreed = answer.status == 200 and await answer.text() == challenge
        except ClientError:
            agreed = False
        if agreed and self.fault != "refuses":
            self.subscribers.setdefault(topic, {})[callback] = secret
        return agreed

    async def unsubscribe(self, topic: str, callback: str) -> bool:
        """Verify that a subscriber wants to end, and forget it when it answers (WebSub 5.3)."""
        challenge = secrets.token_hex(8)
        query = {"hub.mode": "unsubscribe", "hub.topic": topic, "hub.challenge": challenge}
        try:
            async with ClientSession(timeout=_SECONDS) as session, session.get(callback, params=query) as answer:
                agreed = answer.status == 200 and await answer.text() == challenge
        except ClientError:
            return False
        if agreed:
            self.subscribers.get(topic, {}).pop(callback, None)
        return agreed

    async def publish(self, topic: str, body: bytes, kind: str) -> int:
        """Push a feed to its subscribers (WebSub 7) and return their number."""
        if self.fault == "silent":
            return 0
        told = 0
        for callback, secret in list(self.subscribers.get(topic, {}).items()):
            key = "wrong" if self.fault == "lies" else secret
            signature = "sha256=" + hmac.new(key.encode(), body, hashlib.sha256).hexdigest()
            headers = {"Content-Type": kind, "X-Hub-Signature": signature}
            try:
                async with (
                    ClientSession(timeout=_SECONDS) as session,
                    session.post(callback, data=body, headers=headers) as answer,
                ):
                    told += answer.status < 300
            except ClientError:
                continue
        self.pushed += told
        return told
