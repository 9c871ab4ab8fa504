"""The roles on a blog."""

from django.db import models

__all__ = ["Role"]


class Role(models.TextChoices):
    """The permissions of a person on a blog. Each role includes those before it."""

    # Sees everything, and tries rules in proofs.
    VIEWER = "viewer"
    # Decides about posts and comments.
    REVIEWER = "reviewer"
    # Writes rules, chooses sources, and runs campaigns.
    EDITOR = "editor"
    # Changes the settings of the blog, and who works on it.
    OWNER = "owner"

    @property
    def rank(self) -> int:
        """Return the position among the roles, least first."""
        return list(Role).index(self)
