"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["NoticesConfig"]


class NoticesConfig(AppConfig):
    """What people are told by mail."""

    name = "glyptarch_server.notices"
    label = "notices"
    default_auto_field = "django.db.models.BigAutoField"
