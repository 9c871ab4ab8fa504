"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["ProofsConfig"]


class ProofsConfig(AppConfig):
    """Proofs: dry runs over captured items."""

    name = "glyptarch_server.proofs"
    label = "proofs"
    default_auto_field = "django.db.models.BigAutoField"
