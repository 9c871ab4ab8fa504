"""The public address of this installation."""

from django.conf import settings
from django.http import HttpRequest

__all__ = ["address_of", "public_address"]


def public_address() -> str:
    """Return the configured public address without a trailing slash.

    Empty where none is set.
    """
    address: str = settings.GLYPTARCH_PUBLIC_ADDRESS
    return address.rstrip("/")


def address_of(request: HttpRequest) -> str:
    """Return the base address for links in messages.

    The configured one, else that of the request.
    """
    return public_address() or f"{request.scheme}://{request.get_host()}"
