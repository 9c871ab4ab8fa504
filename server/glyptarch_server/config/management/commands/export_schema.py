"""``manage.py export_schema``: write the API schema, or check the written one."""

import json
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from glyptarch_server.config.api import api
from glyptarch_server.config.openapi import SCHEMA

__all__ = ["SCHEMA", "Command", "schema_text"]


def schema_text() -> str:
    """Return the schema as stored in the repository."""
    return json.dumps(api.get_openapi_schema(), indent=1, sort_keys=True, default=str) + "\n"


class Command(BaseCommand):
    """Write the API's OpenAPI schema."""

    help = "Write the API's OpenAPI schema, or check it with --check."

    def add_arguments(self, parser: CommandParser) -> None:
        """Add ``--check``."""
        parser.add_argument("--check", action="store_true")

    def handle(self, *_args: Any, check: bool, **_options: Any) -> None:  # noqa: ANN401
        """Write or check."""
        text = schema_text()
        if not check:
            SCHEMA.write_text(text)
        elif not SCHEMA.is_file() or SCHEMA.read_text() != text:
            raise CommandError("openapi.json is not current. Run: manage.py export_schema, then npm run types:make")
