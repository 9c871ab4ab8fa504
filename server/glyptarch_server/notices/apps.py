"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["NoticesConfig"]


class NoticesConfig(AppConfig):
    """Mails about a blog's problems, runs and posts."""

    name = "glyptarch_server.notices"
    label = "notices"
    default_auto_field = "django.db.models.BigAutoField"
