"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["DemoConfig"]


class DemoConfig(AppConfig):
    """Demo data."""

    name = "glyptarch_server.demo"
    label = "demo"
