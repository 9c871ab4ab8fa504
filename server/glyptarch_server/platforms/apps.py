"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["PlatformsConfig"]


class PlatformsConfig(AppConfig):
    """Connections and their quotas."""

    name = "glyptarch_server.platforms"
    label = "platforms"
    default_auto_field = "django.db.models.BigAutoField"
