"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["NamesConfig"]


class NamesConfig(AppConfig):
    """The categories, tags and bylines of a blog."""

    name = "glyptarch_server.names"
    label = "names"
    default_auto_field = "django.db.models.BigAutoField"
