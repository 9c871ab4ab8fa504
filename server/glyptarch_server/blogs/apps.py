"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["BlogsConfig"]


class BlogsConfig(AppConfig):
    """Blogs, their categories, tags and bylines, and who may do what on them."""

    name = "glyptarch_server.blogs"
    label = "blogs"
    default_auto_field = "django.db.models.BigAutoField"
