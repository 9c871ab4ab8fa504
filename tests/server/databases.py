"""Separate databases for tests that need an empty or an old one."""

import os
import secrets
import subprocess
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from django.db import connection
from glyptarch_launcher.paths import REPOSITORY, VAR

from tests.processes import MANAGE
from tests.running.databases import connection_to, create, drop, ensure_template

__all__ = ["ask", "manage", "own_database"]


@contextmanager
def own_database(*, migrated: bool = False) -> Iterator[str]:
    """Create a database, empty or migrated.

    Yield its name, and drop it at the end.
    """
    name = f"own_{secrets.token_hex(6)}"
    create(name, ensure_template() if migrated else "template1")
    try:
        yield name
    finally:
        drop(name)


def ask(name: str, query: str) -> list[tuple[Any, ...]]:
    """Return the rows of a query in a database.

    Statements without rows return none.
    """
    with connection_to(name) as database:
        cursor = database.execute(query)  # type: ignore[call-overload]
        return cursor.fetchall() if cursor.description else []


def manage(name: str, *words: str | Path, given: str = "", **env: str) -> subprocess.CompletedProcess[str]:
    """Run ``manage.py`` on a database."""
    settings = connection.settings_dict
    address = {
        "GLYPTARCH_DB_HOST": str(settings["HOST"]),
        "GLYPTARCH_DB_PORT": str(settings["PORT"]),
        "GLYPTARCH_DB_USER": str(settings["USER"]),
        "GLYPTARCH_DB_PASSWORD": str(settings["PASSWORD"]),
        "GLYPTARCH_DB_NAME": name,
        "GLYPTARCH_VAR": str(VAR),
        "DJANGO_SETTINGS_MODULE": "glyptarch_server.config.settings",
    }
    return subprocess.run(
        [str(word) for word in (*MANAGE, *words)],
        cwd=REPOSITORY,
        env={**os.environ, **address, **env},
        input=given,
        capture_output=True,
        text=True,
        check=False,
    )
