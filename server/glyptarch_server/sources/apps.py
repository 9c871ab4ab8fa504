"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["SourcesConfig"]


class SourcesConfig(AppConfig):
    """Sources and their readings."""

    name = "glyptarch_server.sources"
    label = "sources"
    default_auto_field = "django.db.models.BigAutoField"
