"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["CareConfig"]


class CareConfig(AppConfig):
    """Health and metrics of the server."""

    name = "glyptarch_server.care"
    label = "care"
    default_auto_field = "django.db.models.BigAutoField"
