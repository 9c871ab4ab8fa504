"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["CommentsConfig"]


class CommentsConfig(AppConfig):
    """Comments of readers, and their states."""

    name = "glyptarch_server.comments"
    label = "comments"
    default_auto_field = "django.db.models.BigAutoField"
