"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["ThrottleConfig"]


class ThrottleConfig(AppConfig):
    """How often somebody may try something."""

    name = "glyptarch_server.throttle"
    label = "throttle"
    default_auto_field = "django.db.models.BigAutoField"
