"""Sending mail: put on the queue with the change that it tells of, and sent by a worker."""

from django.conf import settings
from django.core.mail import EmailMessage

from glyptarch_server.common.queue import defer

__all__ = ["deliver", "mail_is_set_up", "send"]


def mail_is_set_up() -> bool:
    """Tell whether this installation knows a mail server."""
    return bool(settings.EMAIL_HOST)


def send(to: str, subject: str, text: str) -> None:
    """Send a message to one address, once the present transaction holds. Does nothing without address or server."""
    if to and mail_is_set_up():
        defer("send_mail", to=to, subject=" ".join(subject.split())[:200], text=text)


def deliver(to: str, subject: str, text: str) -> None:
    """Hand a message to the mail server (SMTP, RFC 5321). Raises OSError or SMTPException where that fails."""
    EmailMessage(subject=subject, body=text, to=[to]).send()
