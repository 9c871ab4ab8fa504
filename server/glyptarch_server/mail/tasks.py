"""The jobs of mail."""

from smtplib import SMTPException

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from glyptarch_server.mail import actions

__all__ = ["send_mail"]

# A mail server may be down for hours. Waits double from two seconds to about nine hours in total.
_UNTIL_TAKEN = RetryStrategy(max_attempts=14, exponential_wait=2, retry_exceptions={OSError, SMTPException})


@app.task(name="send_mail", queue="mail", retry=_UNTIL_TAKEN, pass_context=False)  # type: ignore[untyped-decorator]
def send_mail(to: str, subject: str, text: str) -> None:
    """Send one message."""
    actions.deliver(to, subject, text)
