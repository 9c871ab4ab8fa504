"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["PeopleConfig"]


class PeopleConfig(AppConfig):
    """Members of a blog and invitations."""

    name = "glyptarch_server.people"
    label = "people"
    default_auto_field = "django.db.models.BigAutoField"
