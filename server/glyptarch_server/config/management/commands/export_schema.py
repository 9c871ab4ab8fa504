"""``manage.py export_schema``: write the API schema and what the desk draws rules from.

``--check`` only compares the written ones.
"""

import json
from collections.abc import Mapping
from dataclasses import asdict
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from glyptarch_core.sift.registry import KINDS

from glyptarch_server.config.api import api
from glyptarch_server.config.openapi import SCHEMA

__all__ = ["SCHEMA", "Command", "kinds_text", "schema_text"]

_KINDS = SCHEMA.parents[3] / "web" / "src" / "api" / "sift-kinds.json"


def schema_text() -> str:
    """Return the schema as stored in the repository."""
    return json.dumps(api.get_openapi_schema(), indent=1, sort_keys=True, default=str) + "\n"


def kinds_text() -> str:
    """Return the kinds of filter rules as the desk has them."""
    kinds = [
        {
            "kind": kind.name,
            "label": kind.label,
            "hint": kind.hint,
            "start": kind.start,
            "sentence": kind.sentence,
            "places": {name: asdict(place) for name, place in kind.places.items()},
            "findings": {code: asdict(words) for code, words in kind.findings.items()},
        }
        for kind in KINDS
    ]
    return json.dumps(kinds, indent=2, ensure_ascii=False) + "\n"


class Command(BaseCommand):
    """Write the API's OpenAPI schema, and the kinds of rules beside the types made from it."""

    help = "Write the API's OpenAPI schema and the kinds of rules, or check them with --check."

    def add_arguments(self, parser: CommandParser) -> None:
        """Add ``--check``."""
        parser.add_argument("--check", action="store_true")

    def handle(self, *_args: Any, check: bool, **_options: Any) -> None:  # noqa: ANN401
        """Write or check."""
        texts: Mapping[Path, str] = {SCHEMA: schema_text(), _KINDS: kinds_text()}
        for path, text in texts.items():
            if not check:
                path.write_text(text)
            elif not path.is_file() or path.read_text() != text:
                message = f"{path.name} is not current. Run: manage.py export_schema, then npm run types:make"
                raise CommandError(message)
