"""Where copies of pictures, films and sound lie, from the environment."""

from collections.abc import Mapping
from typing import Any

__all__ = ["media_storage"]


def media_storage(environment: Mapping[str, str]) -> dict[str, Any]:
    """Give Django's settings of the storage: a folder, or the bucket that ``GLYPTARCH_S3_BUCKET`` names.

    A bucket needs ``GLYPTARCH_S3_ENDPOINT`` (https://…), ``GLYPTARCH_S3_KEY`` and ``GLYPTARCH_S3_SECRET``.
    ``GLYPTARCH_S3_PUBLIC`` is the host under which readers reach its files, where it is another one than the
    endpoint's.
    """
    bucket = environment.get("GLYPTARCH_S3_BUCKET", "")
    if not bucket:
        return {"BACKEND": "django.core.files.storage.FileSystemStorage"}
    missing = [name for name in ("ENDPOINT", "KEY", "SECRET") if not environment.get(f"GLYPTARCH_S3_{name}")]
    if missing:
        named = ", ".join(f"GLYPTARCH_S3_{name}" for name in missing)
        raise ValueError(f"GLYPTARCH_S3_BUCKET names a bucket. It also needs {named}.")
    return {
        "BACKEND": "storages.backends.s3.S3Storage",
        "OPTIONS": {
            "bucket_name": bucket,
            "endpoint_url": environment["GLYPTARCH_S3_ENDPOINT"],
            "access_key": environment["GLYPTARCH_S3_KEY"],
            "secret_key": environment["GLYPTARCH_S3_SECRET"],
            "custom_domain": environment.get("GLYPTARCH_S3_PUBLIC") or None,
            "querystring_auth": False,
            "file_overwrite": False,
            "object_parameters": {"CacheControl": "public, max-age=31536000, immutable"},
        },
    }
