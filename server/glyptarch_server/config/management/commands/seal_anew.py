"""Encrypt every stored secret with the newest key, so that an older key can be removed."""

from typing import Any

from django.apps import apps
from django.core.management.base import BaseCommand, CommandError
from django.db import transaction

from glyptarch_server.common.problems import Conflict
from glyptarch_server.common.seal import seal_anew

__all__ = ["Command"]

# Every sealed column; a test looks for others.
SEALED = (
    ("sources", "SourceAccess", "sealed"),
    ("platforms", "Connection", "sealed"),
    ("services", "Service", "sealed"),
    ("websub", "Subscription", "secret_sealed"),
    ("accounts", "User", "totp_secret"),
)


class Command(BaseCommand):
    """Encrypt every stored secret with the newest key."""

    help = "Encrypt every kept secret with the first of GLYPTARCH_ENCRYPTION_KEYS; the older ones can go then."

    def handle(self, *_args: Any, **_options: Any) -> None:  # noqa: ANN401
        """Do it for all or for none."""
        number = 0
        with transaction.atomic():
            for app, model, field in SEALED:
                rows = apps.get_model(app, model)._base_manager.select_for_update().exclude(**{field: ""})  # noqa: SLF001
                for row in rows.only("pk", field).order_by("pk").iterator(chunk_size=500):
                    try:
                        setattr(row, field, seal_anew(getattr(row, field)))
                    except Conflict as error:
                        raise CommandError(f"{model} {row.pk}: {error.detail}") from error
                    row.save(update_fields=[field])
                    number += 1
        self.stdout.write(f"{number} secrets are encrypted with the newest key.")
