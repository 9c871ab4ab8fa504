"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["AuditConfig"]


class AuditConfig(AppConfig):
    """The audit of people's actions."""

    name = "glyptarch_server.audit"
    label = "audit"
    default_auto_field = "django.db.models.BigAutoField"
