"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["MediaConfig"]


class MediaConfig(AppConfig):
    """Pictures, films and sound that a blog keeps itself."""

    name = "glyptarch_server.media"
    label = "media"
    default_auto_field = "django.db.models.BigAutoField"
