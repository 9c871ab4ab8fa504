"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["PostsConfig"]


class PostsConfig(AppConfig):
    """Posts, their states, and the keys they are remembered by."""

    name = "glyptarch_server.posts"
    label = "posts"
    default_auto_field = "django.db.models.BigAutoField"
