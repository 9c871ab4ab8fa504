"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["FrontConfig"]


class FrontConfig(AppConfig):
    """The public pages of a blog."""

    name = "glyptarch_server.front"
    label = "front"
    default_auto_field = "django.db.models.BigAutoField"
