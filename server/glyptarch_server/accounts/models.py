"""Who signs in."""

from django.contrib.auth.models import AbstractUser

__all__ = ["User"]


class User(AbstractUser):
    """A person with a sign-in."""
