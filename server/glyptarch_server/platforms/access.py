"""The fields of a connection, sealed, and the requests that carry them."""

import base64
import json
from collections.abc import Mapping
from typing import Any
from urllib.parse import urlencode, urljoin

from glyptarch_core.errors import Fault
from glyptarch_core.header_names import may_be_set
from glyptarch_core.platforms import platform_of
from glyptarch_core.platforms.model import Ask, Platform, SignIn

from glyptarch_server.common.problems import Invalid
from glyptarch_server.common.seal import seal, unseal
from glyptarch_server.platforms.models import Connection
from glyptarch_server.wiring import FetchRequest, may_share_secrets

__all__ = ["fields_of", "request_of", "sealed_fields"]

_LONGEST = 2000
_TOKENS = ("access", "refresh", "ends")


def fields_of(connection: Connection) -> dict[str, str]:
    """Return the fields of a connection.

    Raises Conflict where the key that sealed them is missing.
    """
    return dict(json.loads(unseal(connection.sealed))) if connection.sealed else {}


def sealed_fields(platform: "Platform[Any]", fields: Mapping[str, str], stored: Mapping[str, str]) -> str:
    """Validate and seal credentials. An empty hidden field keeps its stored value.

    Raises Invalid.
    """
    kept: dict[str, str] = {}
    for secret in platform.secrets:
        value = fields.get(secret.name, "").strip() or (stored.get(secret.name, "") if secret.hidden else "")
        if not value or len(value) > _LONGEST or not value.isprintable() or not value.isascii():
            message = (
                f"{secret.label} must be one line of plain letters (ASCII)."
                if value
                else f"Give the {secret.label.lower()}."
            )
            raise Invalid(message, faults=[Fault(path=f"fields.{secret.name}", message=message)])
        if secret.name == "header" and not may_be_set(value):
            message = f"“{value}” is not a header that can be set. Try X-Api-Key, for example."
            raise Invalid(message, faults=[Fault(path="fields.header", message=message)])
        if secret.name.endswith("_address") and not value.startswith(("https://", "http://")):
            message = f"{secret.label} begins with https://."
            raise Invalid(message, faults=[Fault(path=f"fields.{secret.name}", message=message)])
        kept[secret.name] = value
    if all(kept[name] == stored.get(name) for name in kept):
        # Tokens of a sign-in stay while the credentials are the same.
        kept |= {name: stored[name] for name in _TOKENS if name in stored}
    return seal(json.dumps(kept))


def _signed(platform: "Platform[Any]", fields: Mapping[str, str]) -> dict[str, str]:
    """Return the headers that authenticate a request."""
    key = fields.get("key") or fields.get("token", "")
    match platform.sign_in:
        case SignIn.HEADER if key:
            return {platform.header or fields.get("header", "") or "Authorization": key}
        case SignIn.BEARER if key:
            return {"Authorization": f"Bearer {key}"}
        case SignIn.OAUTH | SignIn.CLIENT if fields.get("access"):
            return {"Authorization": f"Bearer {fields['access']}"}
        case SignIn.BASIC:
            pair = base64.b64encode(f"{fields.get('user', '')}:{fields.get('password', '')}".encode()).decode()
            return {"Authorization": f"Basic {pair}"}
    return {}


def request_of(
    platform_key: str, ask: Ask, connection: Connection | None, *, etag: str = "", last_modified: str = ""
) -> FetchRequest:
    """Return the request for an ask. Credentials are sent to the host of the connection only."""
    platform = platform_of(platform_key)
    base = connection.address if connection else ""
    path = ask.path if ask.path.startswith(("http://", "https://")) else f"{base.rstrip('/')}/{ask.path.lstrip('/')}"
    url = urljoin(base, path) if base else path
    if ask.query:
        url = f"{url}?{urlencode(ask.query)}"
    headers, query = {"Accept": "application/json", **ask.headers}, dict[str, str]()
    if platform and connection and may_share_secrets(connection.address, url):
        fields = fields_of(connection)
        headers |= _signed(platform, fields)
        if platform.sign_in is SignIn.QUERY and fields.get("key"):
            query = {fields["parameter"]: fields["key"]}
    return FetchRequest(
        url=url,
        headers=tuple(headers.items()),
        body=ask.body,
        secret_query=tuple(query.items()),
        keeps_error=True,
        etag=etag,
        last_modified=last_modified,
    )
