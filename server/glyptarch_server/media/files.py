"""The storage of media files, and their public addresses.

The storage is Django's: a folder (``GLYPTARCH_MEDIA``), or a bucket where the environment names one.
"""

import logging
import re
import secrets
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path

from botocore.exceptions import BotoCoreError, ClientError
from django.conf import settings
from django.core.files.base import ContentFile, File
from django.core.files.storage import FileSystemStorage, default_storage
from django.db import DatabaseError
from glyptarch_core.pictures import MadePicture

from glyptarch_server.common.start import end_for
from glyptarch_server.media.models import Picture, Recording, Store

__all__ = [
    "MARK",
    "MIMES",
    "StorageError",
    "address_of",
    "check_folder",
    "fallback_of",
    "file_address",
    "files_of",
    "folder_fault",
    "hash_in",
    "is_file_name",
    "keep_file",
    "keep_sizes",
    "kept_files",
    "lies_in_a_folder",
    "remove_files",
    "remove_picture_files",
]

_log = logging.getLogger("glyptarch.media")

MIMES = {
    "webp": "image/webp",
    "jpg": "image/jpeg",
    "png": "image/png",
    "mp4": "video/mp4",
    "webm": "video/webm",
    "ogg": "audio/ogg",
    "mp3": "audio/mpeg",
    "m4a": "audio/mp4",
    "wav": "audio/wav",
    "flac": "audio/flac",
}
"""By the ending of its name: what a kept file is served as. Nothing else is kept or served."""

_PICTURE = r"pictures/\d+/[0-9a-f]{2}/[0-9a-f]{64}/\d{1,5}\.(?:webp|jpg|png)"
_RECORDING = r"recordings/\d+/[0-9a-f]{2}/[0-9a-f]{64}\.(?:mp4|webm|ogg|mp3|m4a|wav|flac)"
_HASH = re.compile(r"/pictures/\d+/[0-9a-f]{2}/([0-9a-f]{64})/\d{1,5}\.(?:webp|jpg|png)$")
_FILE = re.compile(f"(?:{_PICTURE}|{_RECORDING})")


class StorageError(Exception):
    """The storage failed: the disk or the bucket is full, or the service is down."""


@contextmanager
def _storage_errors() -> Iterator[None]:
    try:
        yield
    except (OSError, BotoCoreError, ClientError) as error:
        raise StorageError(str(error)) from error


def is_file_name(name: str) -> bool:
    """Whether a name can be that of a stored file."""
    return _FILE.fullmatch(name) is not None


def hash_in(url: str) -> str:
    """Return the hash in the address of a stored picture.

    Empty for other addresses.
    """
    match = _HASH.search(url)
    return match[1] if match else ""


def _folder(blog: int, digest: str) -> str:
    return f"pictures/{blog}/{digest[:2]}/{digest}"


def address_of(picture: Picture, file: str) -> str:
    """Return the address of one file of a picture: ``640.webp``."""
    return default_storage.url(f"{_folder(picture.blog_id, picture.hash)}/{file}")


def file_address(name: str) -> str:
    """Return the address of a stored file by its name in the storage."""
    return default_storage.url(name)


def fallback_of(picture: Picture) -> str:
    """Return the address of the file for browsers without WebP."""
    return address_of(picture, picture.fallback)


def keep_sizes(blog: int, picture: MadePicture) -> None:
    """Write the files of a picture.

    Existing ones are equal and stay. Raises StorageError.
    """
    for size in (*picture.sizes, picture.fallback):
        _keep(f"{_folder(blog, picture.hash)}/{size.width}.{size.ending}", ContentFile(size.data))


def keep_file(blog: int, digest: str, ending: str, path: Path) -> str:
    """Move a film or sound into the storage.

    Return its name there. Raises StorageError.
    """
    name = f"recordings/{blog}/{digest[:2]}/{digest}.{ending}"
    with path.open("rb") as opened:
        _keep(name, File(opened))
    return name


def _keep(name: str, content: File) -> None:  # type: ignore[type-arg]
    # A bucket serves a file with the type it was written with.
    content.content_type = MIMES[name.rpartition(".")[2]]  # type: ignore[attr-defined]
    with _storage_errors():
        if default_storage.exists(name):
            return
        written = default_storage.save(name, content)
        if written != name:
            # Another worker wrote the same bytes meanwhile.
            default_storage.delete(written)


def files_of(picture: Picture) -> list[str]:
    """Return the names of the files of a picture."""
    files = [picture.fallback, *(f"{width}.webp" for width in picture.widths)]
    return [f"{_folder(picture.blog_id, picture.hash)}/{file}" for file in files]


def kept_files() -> Iterator[str]:
    """Yield the names of all files of pictures and recordings."""
    rows = Picture.objects.only("blog_id", "hash", "widths", "fallback").order_by("pk")
    for picture in rows.iterator():
        yield from files_of(picture)
    yield from Recording.objects.exclude(file="").order_by("pk").values_list("file", flat=True).iterator()


MARK = ".glyptarch-media"


def lies_in_a_folder() -> bool:
    """Whether the files lie in a folder, and not in a bucket."""
    return isinstance(default_storage, FileSystemStorage)


def folder_fault() -> str:
    """Return why this process must not use its media folder.

    Empty where it may. Several processes share one folder. With a folder of its own, a process would lose uploads for
    all others, and a backup made there would lack most files. The first process writes a mark into the folder; the
    others check it.
    """
    if not lies_in_a_folder():
        return ""
    folder = Path(settings.MEDIA_ROOT)
    path = folder / MARK
    mark = path.read_text().strip() if path.is_file() else ""
    store, is_new = Store.objects.get_or_create(pk=1, defaults={"mark": mark or secrets.token_hex(16)})
    if mark == store.mark:
        return ""
    if mark or not (_is_unused() or (is_new and _holds_one(folder))):
        return (
            f"{folder} is not the folder in which this installation keeps its pictures, films and sound. Every web "
            "process and every worker must reach the same one: share it, name it in GLYPTARCH_MEDIA, or keep the files "
            "in a bucket (GLYPTARCH_S3_BUCKET). A folder that was moved takes its file "
            f"{MARK} along."
        )
    folder.mkdir(parents=True, exist_ok=True)
    path.write_text(store.mark)
    return ""


def check_folder() -> None:
    """Exit in production when the media folder is not the one of the other processes."""
    try:
        fault = folder_fault()
    except (DatabaseError, OSError) as error:
        # An absent database or a full disk is reported where it matters.
        _log.warning("the media folder cannot be checked; the start goes on: %s", error)
    else:
        end_for(fault)


def _holds_one(folder: Path) -> bool:
    """Whether the first stored file is in a folder.

    An old installation has no mark yet.
    """
    return (folder / next(kept_files())).is_file()


def _is_unused() -> bool:
    return not Picture.objects.exists() and not Recording.objects.exclude(file="").exists()


def remove_files(names: Iterable[str]) -> None:
    """Remove stored files by name. Raises StorageError."""
    with _storage_errors():
        for name in names:
            default_storage.delete(name)


def remove_picture_files(picture: Picture) -> None:
    """Remove the files of a picture. Raises StorageError."""
    remove_files(files_of(picture))
