"""Where files lie in the storage, and at which addresses they are served.

The storage is Django's: a folder (``GLYPTARCH_MEDIA``), or a bucket where the environment names one.
"""

import re
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path

from botocore.exceptions import BotoCoreError, ClientError
from django.core.files.base import ContentFile, File
from django.core.files.storage import default_storage
from glyptarch_core.pictures import MadePicture

from glyptarch_server.media.models import Picture

__all__ = [
    "MIMES",
    "StorageError",
    "address_of",
    "fallback_of",
    "file_address",
    "hash_in",
    "is_file_name",
    "keep_file",
    "keep_sizes",
    "remove_files",
    "remove_picture_files",
]

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
    """The storage does not do what is asked: the disk or the bucket is full, or the service is down."""


@contextmanager
def _told() -> Iterator[None]:
    try:
        yield
    except (OSError, BotoCoreError, ClientError) as error:
        raise StorageError(str(error)) from error


def is_file_name(name: str) -> bool:
    """Tell whether a name can be that of a kept file."""
    return _FILE.fullmatch(name) is not None


def hash_in(url: str) -> str:
    """Give the hash in the address of a kept picture; empty where it is another address."""
    found = _HASH.search(url)
    return found[1] if found else ""


def _folder(blog: int, digest: str) -> str:
    return f"pictures/{blog}/{digest[:2]}/{digest}"


def address_of(picture: Picture, file: str) -> str:
    """Give the address of one file of a picture: ``640.webp``."""
    return default_storage.url(f"{_folder(picture.blog_id, picture.hash)}/{file}")


def file_address(name: str) -> str:
    """Give the address of a kept file by its name in the storage."""
    return default_storage.url(name)


def fallback_of(picture: Picture) -> str:
    """Give the address of the file that every browser shows."""
    return address_of(picture, picture.fallback)


def keep_sizes(blog: int, made: MadePicture) -> None:
    """Write the files of a picture. Those that are there already are the same, and stay. Raises StorageError."""
    for size in (*made.sizes, made.fallback):
        _keep(f"{_folder(blog, made.hash)}/{size.width}.{size.ending}", ContentFile(size.data))


def keep_file(blog: int, digest: str, ending: str, path: Path) -> str:
    """Move a film or sound into the storage; gives its name there. Raises StorageError."""
    name = f"recordings/{blog}/{digest[:2]}/{digest}.{ending}"
    with path.open("rb") as opened:
        _keep(name, File(opened))
    return name


def _keep(name: str, content: File) -> None:  # type: ignore[type-arg]
    # A bucket serves a file as what it was written.
    content.content_type = MIMES[name.rpartition(".")[2]]  # type: ignore[attr-defined]
    with _told():
        if default_storage.exists(name):
            return
        written = default_storage.save(name, content)
        if written != name:
            # Another worker has written the same bytes meanwhile.
            default_storage.delete(written)


def remove_files(names: Iterable[str]) -> None:
    """Take kept files out of the storage by their names. Raises StorageError."""
    with _told():
        for name in names:
            default_storage.delete(name)


def remove_picture_files(picture: Picture) -> None:
    """Take the files of a picture out of the storage. Raises StorageError."""
    files = [picture.fallback, *(f"{width}.webp" for width in picture.widths)]
    remove_files(f"{_folder(picture.blog_id, picture.hash)}/{file}" for file in files)
