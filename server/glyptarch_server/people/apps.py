"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["PeopleConfig"]


class PeopleConfig(AppConfig):
    """Who works on a blog, and how people join."""

    name = "glyptarch_server.people"
    label = "people"
    default_auto_field = "django.db.models.BigAutoField"
