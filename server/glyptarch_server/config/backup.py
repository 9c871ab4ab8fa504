"""Backups: database and media in one file with a manifest, and their restoration.

The file is a tar archive (POSIX.1-2001) of ``manifest.json``, ``database.dump`` (the custom format of ``pg_dump``) and
``media/…``. It has no keys of the environment: without the encryption key of that time, stored secrets cannot be read.
"""

import contextlib
import hashlib
import json
import os
import shutil
import subprocess
import tarfile
import tempfile
from collections.abc import Mapping
from datetime import datetime
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import connection, transaction

from glyptarch_server.common.version import VERSION
from glyptarch_server.media.files import MARK, kept_files, lies_in_a_folder

__all__ = ["BackupError", "back_up", "restore"]

_FORMAT = 1
_DUMP = "database.dump"
_MANIFEST = "manifest.json"
_COUNTED = ("blogs_blog", "posts_post", "runs_decision", "campaigns_revision", "items_item", "audit_entry")
_BLOCK = 1 << 20


class BackupError(Exception):
    """A backup cannot be made or restored.

    The message says why and what to do.
    """


def _program(name: str) -> str:
    """Return the path of a PostgreSQL program.

    Debian's newest version, else the one on the path.
    """
    programs = sorted(Path("/usr/lib/postgresql").glob(f"*/bin/{name}"), key=lambda path: int(path.parts[-3]))
    program = str(programs[-1]) if programs else shutil.which(name)
    if program is None:
        raise BackupError(f"{name} is not installed. On Debian: apt-get install postgresql-client")
    return program


def _run(name: str, *words: str) -> None:
    database = connection.settings_dict
    env = {
        **os.environ,
        "PGHOST": str(database["HOST"]),
        "PGPORT": str(database["PORT"]),
        "PGUSER": str(database["USER"]),
        "PGPASSWORD": str(database["PASSWORD"]),
    }
    done = subprocess.run([_program(name), *words], env=env, capture_output=True, text=True, check=False)
    if done.returncode:
        raise BackupError(f"{name} failed: {done.stderr.strip()[-600:]}")


def _counts() -> dict[str, int]:
    with connection.cursor() as cursor:
        counted = {}
        for table in _COUNTED:
            cursor.execute(f"SELECT count(*) FROM {table}")  # noqa: S608 - names of our own
            counted[table] = int(cursor.fetchone()[0])
        return counted


def _migrations() -> list[str]:
    with connection.cursor() as cursor:
        cursor.execute("SELECT app || '.' || name FROM django_migrations ORDER BY 1")
        return [row[0] for row in cursor.fetchall()]


def _hash(path: Path) -> str:
    digest = hashlib.sha256()
    with path.open("rb") as file:
        while block := file.read(_BLOCK):
            digest.update(block)
    return digest.hexdigest()


def _media() -> Path:
    folder: Path = settings.MEDIA_ROOT
    return folder


def _files(folder: Path) -> list[Path]:
    return sorted(path for path in folder.rglob("*") if path.is_file()) if folder.is_dir() else []


def back_up(target: Path, *, now: datetime) -> Mapping[str, int]:
    """Write a backup.

    Return the row counts of the main tables. Raises BackupError. The file appears under its name only when it is
    complete; an existing file is never overwritten.
    """
    if target.exists():
        raise BackupError(f"{target} is there already. Choose another name.")
    with tempfile.TemporaryDirectory(dir=target.parent) as folder_name:
        folder = Path(folder_name)
        counted, migrations = _dump(folder / _DUMP)
        media = _copied_media(folder / "media")
        files = {f"media/{path.relative_to(folder / 'media')}": path for path in media} | {_DUMP: folder / _DUMP}
        manifest = {
            "format": _FORMAT,
            "glyptarch": VERSION,
            "made_at": now.isoformat(),
            "migrations": migrations,
            "rows": counted,
            "sha256": {name: _hash(path) for name, path in files.items()},
        }
        written = folder / _MANIFEST
        written.write_text(json.dumps(manifest, indent=1))
        whole = folder / "whole.tar"
        with tarfile.open(whole, "w", format=tarfile.PAX_FORMAT) as archive:
            archive.add(written, _MANIFEST)
            for name, path in files.items():
                archive.add(path, name, recursive=False)
        whole.chmod(0o600)
        whole.rename(target)
    return counted


def _dump(path: Path) -> tuple[dict[str, int], list[str]]:
    """Dump the database.

    Return row counts and migrations of the same snapshot.
    """
    with transaction.atomic():
        with connection.cursor() as cursor:
            cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ")
            cursor.execute("SELECT pg_export_snapshot()")
            snapshot = cursor.fetchone()[0]
        _run("pg_dump", "--format=custom", "--no-owner", "--no-privileges", f"--snapshot={snapshot}", f"--file={path}",
             str(connection.settings_dict["NAME"]))  # fmt: skip
        return _counts(), _migrations()


_NAMED = 3


def _copied_media(to: Path) -> list[Path]:
    """Link or copy the media files to a folder, where nothing removes them.

    Return the copies. Raises BackupError when files of pictures or recordings are missing.
    """
    to.mkdir()
    if not lies_in_a_folder():
        return []
    copies = []
    for path in _files(_media()):
        copy = to / path.relative_to(_media())
        copy.parent.mkdir(parents=True, exist_ok=True)
        # A file may be removed, with its row, during the copy.
        with contextlib.suppress(FileNotFoundError):
            try:
                os.link(path, copy)
            except OSError:
                shutil.copyfile(path, copy)
            copies.append(copy)
    there = {str(copy.relative_to(to)) for copy in copies}
    kept = set(kept_files())
    missing = sorted(kept - there)
    if missing:
        raise BackupError(
            f"{len(missing)} of {len(kept)} files of pictures, films and sound are not in {_media()}: "
            f"{', '.join(missing[:_NAMED])}{' …' if len(missing) > _NAMED else ''}. "
            "Look whether GLYPTARCH_MEDIA names the folder that the web processes and workers use."
        )
    return copies


def _is_empty() -> bool:
    with connection.cursor() as cursor:
        cursor.execute("SELECT count(*) FROM pg_tables WHERE schemaname = 'public'")
        return int(cursor.fetchone()[0]) == 0


def _manifest(folder: Path) -> dict[str, Any]:
    try:
        manifest: dict[str, Any] = json.loads((folder / _MANIFEST).read_text())
        version = manifest["format"]
        hashes = dict(manifest["sha256"])
    except (OSError, ValueError, KeyError, TypeError) as error:
        raise BackupError("This is no backup of Glyptarch: its manifest is missing or broken.") from error
    if version != _FORMAT:
        raise BackupError(
            f"The backup was made by Glyptarch {manifest.get('glyptarch')}. Use that version or a newer one."
        )
    for name, expected in hashes.items():
        path = folder / name
        if not path.is_file() or _hash(path) != expected:
            raise BackupError(f"The backup is damaged: {name} is missing or has changed. Use another backup.")
    return manifest


def restore(source: Path) -> Mapping[str, int]:
    """Restore a backup into an empty database.

    Return the row counts. Raises BackupError. Nothing is written before the whole file has been checked. A newer
    Glyptarch then needs ``manage.py migrate``.
    """
    if not source.is_file():
        raise BackupError(f"There is no file {source}.")
    if not _is_empty():
        raise BackupError("The database is not empty. Make an empty one, and name it in GLYPTARCH_DB_NAME.")
    if any(path.name != MARK for path in _files(_media())):
        raise BackupError(f"There are files in {_media()} already. Move them away first.")
    with tempfile.TemporaryDirectory(dir=source.parent) as folder_name:
        folder = Path(folder_name)
        try:
            with tarfile.open(source) as archive:
                archive.extractall(folder, filter="data")
        except tarfile.TarError as error:
            raise BackupError(f"{source} cannot be read as a backup: {error}.") from error
        manifest = _manifest(folder)
        _run("pg_restore", "--exit-on-error", "--single-transaction", "--no-owner", "--no-privileges",
             f"--dbname={connection.settings_dict['NAME']}", str(folder / _DUMP))  # fmt: skip
        if (folder / "media").is_dir():
            shutil.copytree(folder / "media", _media(), dirs_exist_ok=True)
    counted = _counts()
    if counted != manifest["rows"]:
        raise BackupError(f"The database has other counts of rows than the backup: {counted} and {manifest['rows']}.")
    return counted
