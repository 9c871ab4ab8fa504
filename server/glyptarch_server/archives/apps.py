"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["ArchivesConfig"]


class ArchivesConfig(AppConfig):
    """Older items of a source."""

    name = "glyptarch_server.archives"
    label = "archives"
    default_auto_field = "django.db.models.BigAutoField"
