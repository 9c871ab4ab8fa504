"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["FeedListsConfig"]


class FeedListsConfig(AppConfig):
    """Lists of feeds."""

    name = "glyptarch_server.feed_lists"
    label = "feed_lists"
    default_auto_field = "django.db.models.BigAutoField"
