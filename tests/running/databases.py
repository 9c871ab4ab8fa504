"""Databases for tests, each a copy of a template that is migrated once.

A template is named for the migrations it was made by, so it is made anew when one of them changes and
otherwise found again: copying it takes a fifth of a second, migrating takes six.
"""

import hashlib
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import psycopg
from django.core.management import call_command
from django.db import connection
from glyptarch_launcher.paths import REPOSITORY
from psycopg import sql

__all__ = ["connection_to", "create", "drop", "ensure_template", "on_database", "template_name"]

_PREFIX = "template"


def connection_to(name: str) -> psycopg.Connection[tuple[Any, ...]]:
    """Open a connection to a database of the tests' server, outside any transaction."""
    settings = connection.settings_dict
    return psycopg.connect(
        host=settings["HOST"],
        port=settings["PORT"],
        user=settings["USER"],
        password=settings["PASSWORD"],
        dbname=name,
        autocommit=True,
    )


def template_name(kind: str, sources: Sequence[Path]) -> str:
    """Return the name of a template made by these files and folders, as they are now."""
    digest = hashlib.sha256()
    for source in sources:
        for file in sorted(source.rglob("*.py")) if source.is_dir() else [source]:
            digest.update(str(file.relative_to(REPOSITORY)).encode() + file.read_bytes())
    return f"{_PREFIX}_{kind}_{digest.hexdigest()[:12]}"


def ensure_template() -> str:
    """Return the name of the migrated template, making it when it is missing."""
    server = REPOSITORY / "server" / "glyptarch_server"
    name = template_name("migrated", [*sorted(server.glob("*/migrations")), REPOSITORY / "requirements" / "run.txt"])
    if not _exists(name):
        _remove_others("migrated")
        # An interrupted run may not leave a half-migrated template behind under the final name.
        unfinished = f"{name}_unfinished"
        create(unfinished)
        with on_database(unfinished):
            call_command("migrate", verbosity=0)
        rename(unfinished, name)
    return name


def create(name: str, template: str = "template1") -> None:
    """Create a database as a copy of another one, in place of any of the same name."""
    drop(name)
    _run("CREATE DATABASE {} TEMPLATE {}", name, template)


def drop(name: str) -> None:
    """Remove a database, ending the connections that are left to it."""
    _run("DROP DATABASE IF EXISTS {} WITH (FORCE)", name)


def rename(name: str, to: str) -> None:
    """Rename a database that nobody is connected to."""
    _run("ALTER DATABASE {} RENAME TO {}", name, to)


@contextmanager
def on_database(name: str) -> Iterator[None]:
    """Make Django use another database within a block."""
    before = connection.settings_dict["NAME"]
    connection.close()
    connection.close_pool()
    connection.settings_dict["NAME"] = name
    try:
        yield
    finally:
        connection.close()
        connection.close_pool()
        connection.settings_dict["NAME"] = before


def _run(statement: str, *names: str) -> None:
    with connection_to("postgres") as server:
        server.execute(sql.SQL(statement).format(*(sql.Identifier(name) for name in names)))  # type: ignore[arg-type]


def _exists(name: str) -> bool:
    with connection_to("postgres") as server:
        return server.execute("SELECT 1 FROM pg_database WHERE datname = %s", [name]).fetchone() is not None


def _remove_others(kind: str) -> None:
    """Remove templates of earlier migrations."""
    with connection_to("postgres") as server:
        rows = server.execute("SELECT datname FROM pg_database WHERE datname LIKE %s", [f"{_PREFIX}_{kind}_%"])
        names = [name for (name,) in rows]
    for name in names:
        drop(name)
