"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["TodayConfig"]


class TodayConfig(AppConfig):
    """What happened lately on a blog, what comes, and what needs a person."""

    name = "glyptarch_server.today"
    label = "today"
    default_auto_field = "django.db.models.BigAutoField"
