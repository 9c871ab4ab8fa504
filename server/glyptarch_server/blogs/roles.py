"""What people may do."""

from django.db import models

__all__ = ["Role"]


class Role(models.TextChoices):
    """The permissions of a person on a blog. Each role includes those before it."""

    # See everything, and try rules in proofs.
    VIEWER = "viewer"
    # Decide about posts and comments.
    REVIEWER = "reviewer"
    # Write the rules of campaigns, choose sources, and run them.
    EDITOR = "editor"
    # Set what holds for the whole blog, and who works on it.
    OWNER = "owner"

    @property
    def rank(self) -> int:
        """Return the position among the roles, least first."""
        return list(Role).index(self)
