"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["TasksConfig"]


class TasksConfig(AppConfig):
    """Long work, carried out in the background."""

    name = "glyptarch_server.tasks"
    label = "tasks"
    default_auto_field = "django.db.models.BigAutoField"
