"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["EditionsConfig"]


class EditionsConfig(AppConfig):
    """Posts in other languages of their blog."""

    name = "glyptarch_server.editions"
    label = "editions"
    default_auto_field = "django.db.models.BigAutoField"
