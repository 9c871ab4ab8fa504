"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["OffersConfig"]


class OffersConfig(AppConfig):
    """Products, their offers, and the history of their prices."""

    name = "glyptarch_server.offers"
    label = "offers"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        """Note the offers of items whenever some are captured."""
        from glyptarch_server.items.capturing import after_capture  # noqa: PLC0415 - models are loaded by now
        from glyptarch_server.offers.actions import note_items  # noqa: PLC0415

        after_capture.append(note_items)
