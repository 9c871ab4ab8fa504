"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["MailConfig"]


class MailConfig(AppConfig):
    """Messages by mail."""

    name = "glyptarch_server.mail"
    label = "mail"
    default_auto_field = "django.db.models.BigAutoField"
