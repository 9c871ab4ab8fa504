"""Stamps of a step's inputs, so that it is repeated only when they have changed."""

import hashlib
from collections.abc import Iterable
from pathlib import Path

from glyptarch_launcher.paths import REPOSITORY

__all__ = ["is_current", "stamp_of"]


def stamp_of(paths: Iterable[Path]) -> str:
    """Return a hash over the names and contents of files and whole folders."""
    digest = hashlib.sha256()
    for path in sorted(paths):
        files = sorted(part for part in path.rglob("*") if part.is_file()) if path.is_dir() else [path]
        for file in files:
            digest.update(str(file.relative_to(REPOSITORY)).encode() + b"\0" + file.read_bytes() + b"\0")
    return digest.hexdigest()


def is_current(stamp: Path, value: str) -> bool:
    """Whether a stamp was written with this value."""
    return stamp.is_file() and stamp.read_text() == value
