"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["PagesConfig"]


class PagesConfig(AppConfig):
    """Page readers."""

    name = "glyptarch_server.pages"
    label = "pages"
    default_auto_field = "django.db.models.BigAutoField"
