"""Who signs in, and how often a sign-in was tried."""

from django.contrib.auth.models import AbstractUser
from django.db import models

__all__ = ["SignInTry", "User"]


class User(AbstractUser):
    """A person with a sign-in."""


class SignInTry(models.Model):
    """A failed try to sign in, kept so that guessing is slowed down."""

    name_hash = models.CharField(max_length=64)
    address = models.GenericIPAddressField(null=True)
    at = models.DateTimeField()

    class Meta:
        indexes = [
            models.Index(fields=["name_hash", "at"], name="try_by_name"),
            models.Index(fields=["address", "at"], name="try_by_address"),
        ]
