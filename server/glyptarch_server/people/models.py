"""Invitations to work on a blog."""

from django.conf import settings
from django.db import models

from glyptarch_server.blogs.roles import Role

__all__ = ["Invitation"]


class Invitation(models.Model):
    """A link to join a blog, valid once and until a day. Only the hash of its key is stored."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="invitations")
    email = models.EmailField()
    role = models.CharField(max_length=10, choices=Role.choices)
    key_hash = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    made_at = models.DateTimeField()
    ends_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["blog", "email"], name="one_invitation_of_an_address"),
            models.CheckConstraint(condition=models.Q(role__in=Role.values), name="invitation_role_is_known"),
        ]
