"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["ReplayConfig"]


class ReplayConfig(AppConfig):
    """Replays, and what each would do to each post."""

    name = "glyptarch_server.replay"
    label = "replay"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        """Register the values of changes that apply a replay."""
        from glyptarch_server.posts.changes import Action, provide  # noqa: PLC0415 - models are there only now
        from glyptarch_server.replay.applying import wanted_values  # noqa: PLC0415

        provide(Action.REPLAY, wanted_values)
