"""Databases of their own beside that of the tests, for what needs an empty or an old one."""

import os
import secrets
import subprocess
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import psycopg
from django.db import connection
from glyptarch_launcher.paths import REPOSITORY, VAR

from tests.processes import MANAGE

__all__ = ["ask", "manage", "own_database"]


def _address(name: str) -> dict[str, Any]:
    settings = connection.settings_dict
    return {
        "host": settings["HOST"],
        "port": settings["PORT"],
        "user": settings["USER"],
        "password": settings["PASSWORD"],
        "dbname": name,
        "autocommit": True,
    }


@contextmanager
def own_database() -> Iterator[str]:
    """Make an empty database; gives its name, and removes it at the end."""
    name = f"own_{secrets.token_hex(6)}"
    with psycopg.connect(**_address("postgres")) as server:
        server.execute(f'CREATE DATABASE "{name}"')  # type: ignore[call-overload]
        try:
            yield name
        finally:
            server.execute(f'DROP DATABASE "{name}" WITH (FORCE)')  # type: ignore[call-overload]


def ask(name: str, query: str) -> list[tuple[Any, ...]]:
    """Give the rows that a query finds in a database; none for a statement that finds nothing."""
    with psycopg.connect(**_address(name)) as database:
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
