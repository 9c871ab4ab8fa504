"""``manage.py restore FILE``: bring a backup back into an empty database."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from glyptarch_server.config.backup import BackupError, restore

__all__ = ["Command"]


class Command(BaseCommand):
    """Restore a backup."""

    help = "Bring a backup back into an empty database. Run migrate after it where Glyptarch is newer than the backup."

    def add_arguments(self, parser: CommandParser) -> None:
        """Add the file."""
        parser.add_argument("file", type=Path)

    def handle(self, *_args: Any, file: Path, **_options: Any) -> None:  # noqa: ANN401
        """Restore the backup."""
        try:
            counted = restore(file.absolute())
        except BackupError as error:
            raise CommandError(str(error)) from error
        self.stdout.write(f"{counted['posts_post']} posts and {counted['items_item']} items are back.")
