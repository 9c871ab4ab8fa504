"""What people may do."""

from django.db import models

__all__ = ["Role"]


class Role(models.TextChoices):
    """What a person may do on a blog. Each role may do what those before it may."""

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
        """Give its place among the roles, the least first."""
        return list(Role).index(self)
