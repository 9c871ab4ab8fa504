"""Sending mail: put on the queue with the change that it tells of, and sent by a worker."""

from django.conf import settings
from django.core.mail import EmailMessage

from glyptarch_server.common.queue import defer

__all__ = ["deliver", "mail_is_set_up", "send"]


def mail_is_set_up() -> bool:
    """Whether a mail server is configured."""
    return bool(settings.EMAIL_HOST)


def send(to: str, subject: str, text: str) -> None:
    """Queue a message to one address with the present transaction.

    Does nothing without address or server.
    """
    if to and mail_is_set_up():
        defer("send_mail", to=to, subject=" ".join(subject.split())[:200], text=text)


def deliver(to: str, subject: str, text: str) -> None:
    """Send a message by SMTP (RFC 5321). Raises OSError or SMTPException."""
    EmailMessage(subject=subject, body=text, to=[to]).send()
