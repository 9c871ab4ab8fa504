"""The mail server of the simulated world, which shows every message in one inbox."""

import html
from collections import deque
from dataclasses import dataclass
from datetime import UTC, datetime
from email import message_from_bytes, policy
from email.message import EmailMessage

from aiosmtpd.smtp import SMTP, Envelope, Session

__all__ = ["Inbox", "Message", "inbox_page"]

_KEPT = 200


@dataclass(frozen=True, slots=True)
class Message:
    """A message as it came in."""

    to: str
    subject: str
    text: str
    at: datetime


class Inbox:
    """The last 200 received messages, newest first."""

    def __init__(self) -> None:
        self.messages: deque[Message] = deque(maxlen=_KEPT)

    async def handle_DATA(self, _server: SMTP, _session: Session, envelope: Envelope) -> str:  # noqa: N802 - aiosmtpd's name
        """Receive a message."""
        raw = envelope.content if isinstance(envelope.content, bytes) else (envelope.content or "").encode()
        parsed = message_from_bytes(raw, _class=EmailMessage, policy=policy.default)
        body = parsed.get_body(("plain",))
        text = body.get_content() if body is not None else ""
        to = ", ".join(envelope.rcpt_tos)
        self.messages.appendleft(Message(to, str(parsed["Subject"] or ""), text, datetime.now(UTC)))
        return "250 Taken"

    def server(self) -> SMTP:
        """Return the protocol of one connection (SMTP, RFC 5321)."""
        return SMTP(self, hostname="standins.invalid")


def _shown(message: Message) -> str:
    return (
        f"<article><h2>{html.escape(message.subject)}</h2>"
        f"<p>to {html.escape(message.to)}, {message.at:%d %B, %H:%M:%S} UTC</p>"
        f'<pre style="white-space:pre-wrap">{html.escape(message.text)}</pre></article>'
    )


def inbox_page(inbox: Inbox) -> str:
    """Return the inbox as HTML."""
    if not inbox.messages:
        return "<p>No message has come in yet.</p>"
    return "<hr>".join(map(_shown, inbox.messages))
