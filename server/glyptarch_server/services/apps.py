"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["ServicesConfig"]


class ServicesConfig(AppConfig):
    """Language services and the text memory."""

    name = "glyptarch_server.services"
    label = "services"
    default_auto_field = "django.db.models.BigAutoField"
