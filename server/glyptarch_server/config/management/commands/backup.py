"""``manage.py backup FILE``: write the database and the media into one file."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from glyptarch_server import wiring
from glyptarch_server.config.backup import BackupError, back_up

__all__ = ["Command"]


class Command(BaseCommand):
    """Write a backup."""

    help = "Write the database and the media into one file. The keys of the environment are not in it: keep them too."

    def add_arguments(self, parser: CommandParser) -> None:
        """Add the file."""
        parser.add_argument("file", type=Path)

    def handle(self, *_args: Any, file: Path, **_options: Any) -> None:  # noqa: ANN401
        """Write it."""
        try:
            counted = back_up(file.absolute(), now=wiring.clock()())
        except BackupError as error:
            raise CommandError(str(error)) from error
        self.stdout.write(f"{file}: {counted['posts_post']} posts, {counted['items_item']} items.")
