"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["ItemsConfig"]


class ItemsConfig(AppConfig):
    """Captured items."""

    name = "glyptarch_server.items"
    label = "items"
    default_auto_field = "django.db.models.BigAutoField"
