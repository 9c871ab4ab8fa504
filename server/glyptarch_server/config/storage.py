"""The storage of media copies, from the environment."""

from collections.abc import Mapping
from typing import Any

from botocore.config import Config

__all__ = ["media_storage"]


def media_storage(environment: Mapping[str, str]) -> dict[str, Any]:
    """Return Django's storage settings: a folder, or the bucket ``GLYPTARCH_S3_BUCKET``.

    A bucket needs ``GLYPTARCH_S3_ENDPOINT`` (https://…), ``GLYPTARCH_S3_KEY`` and ``GLYPTARCH_S3_SECRET``, optionally
    ``GLYPTARCH_S3_REGION``. ``GLYPTARCH_S3_PUBLIC`` is the host under which readers reach its files, where that is not
    the endpoint followed by the bucket.
    """
    bucket = environment.get("GLYPTARCH_S3_BUCKET", "")
    if not bucket:
        return {"BACKEND": "django.core.files.storage.FileSystemStorage"}
    missing = [name for name in ("ENDPOINT", "KEY", "SECRET") if not environment.get(f"GLYPTARCH_S3_{name}")]
    if missing:
        named = ", ".join(f"GLYPTARCH_S3_{name}" for name in missing)
        raise ValueError(f"GLYPTARCH_S3_BUCKET names a bucket. It also needs {named}.")
    endpoint = environment["GLYPTARCH_S3_ENDPOINT"].rstrip("/")
    scheme, _, place = endpoint.rpartition("://")
    return {
        "BACKEND": "storages.backends.s3.S3Storage",
        "OPTIONS": {
            "bucket_name": bucket,
            "endpoint_url": endpoint,
            "region_name": environment.get("GLYPTARCH_S3_REGION") or "us-east-1",
            "access_key": environment["GLYPTARCH_S3_KEY"],
            "secret_key": environment["GLYPTARCH_S3_SECRET"],
            # Without it the library signs a request for every address on a page.
            "custom_domain": environment.get("GLYPTARCH_S3_PUBLIC") or f"{place}/{bucket}",
            "url_protocol": f"{scheme}:",
            "querystring_auth": False,
            "file_overwrite": False,
            # A job retries later and need not wait for minutes.
            "client_config": Config(
                s3={"addressing_style": "path"},
                signature_version="s3v4",
                connect_timeout=5,
                read_timeout=60,
                retries={"total_max_attempts": 3},
            ),
            "object_parameters": {"CacheControl": "public, max-age=31536000, immutable"},
        },
    }
