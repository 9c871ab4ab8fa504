"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["RunsConfig"]


class RunsConfig(AppConfig):
    """Runs, decisions and proofs."""

    name = "glyptarch_server.runs"
    label = "runs"
    default_auto_field = "django.db.models.BigAutoField"
