"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["WebsubConfig"]


class WebsubConfig(AppConfig):
    """Feeds that are pushed to us by a hub."""

    name = "glyptarch_server.websub"
    label = "websub"
    default_auto_field = "django.db.models.BigAutoField"
