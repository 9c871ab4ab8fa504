"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["AccountsConfig"]


class AccountsConfig(AppConfig):
    """People who sign in."""

    name = "glyptarch_server.accounts"
    label = "accounts"
    default_auto_field = "django.db.models.BigAutoField"
