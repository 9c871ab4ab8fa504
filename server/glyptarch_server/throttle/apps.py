"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["ThrottleConfig"]


class ThrottleConfig(AppConfig):
    """Rate limits."""

    name = "glyptarch_server.throttle"
    label = "throttle"
    default_auto_field = "django.db.models.BigAutoField"
