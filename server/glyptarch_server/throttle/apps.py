"""Django's handle on this app."""

from django.apps import AppConfig

from glyptarch_server import wiring

__all__ = ["ThrottleConfig"]


class ThrottleConfig(AppConfig):
    """Rate limits."""

    name = "glyptarch_server.throttle"
    label = "throttle"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        """Let the fetcher share its turns at hosts with all processes."""
        from glyptarch_server.throttle.hosts import SharedHosts  # noqa: PLC0415 - models are ready only now

        wiring.share_hosts(SharedHosts())
