"""Where people reach this installation."""

from django.conf import settings
from django.http import HttpRequest

__all__ = ["address_of", "public_address"]


def public_address() -> str:
    """Give the address of the settings, without a slash at its end; nothing where none is set."""
    address: str = settings.GLYPTARCH_PUBLIC_ADDRESS
    return address.rstrip("/")


def address_of(request: HttpRequest) -> str:
    """Give the address for links in messages: the one of the settings, else the one that the request came to."""
    return public_address() or f"{request.scheme}://{request.get_host()}"
