"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["TodayConfig"]


class TodayConfig(AppConfig):
    """Recent events of a blog, upcoming ones, and tasks for people."""

    name = "glyptarch_server.today"
    label = "today"
    default_auto_field = "django.db.models.BigAutoField"
