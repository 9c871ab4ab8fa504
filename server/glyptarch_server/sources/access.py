"""Access to a source: headers, credentials, certificate, and pause."""

import base64
import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from glyptarch_core.errors import Fault
from glyptarch_core.header_names import may_be_set

from glyptarch_server.common.problems import Invalid
from glyptarch_server.common.seal import seal, unseal
from glyptarch_server.sources.models import Source
from glyptarch_server.wiring import FetchRequest, may_share_secrets

__all__ = ["Access", "access_of", "request_for", "sealed"]

_MOST = 10
_LONGEST = 2000


@dataclass(frozen=True, slots=True, kw_only=True)
class Access:
    """Headers, user and password (RFC 7617) of requests. Its text form has no secret."""

    headers: tuple[tuple[str, str], ...] = ()
    user: str = ""
    password: str = ""

    def __repr__(self) -> str:
        return f"Access({len(self.headers)} headers)"


def access_of(source: Source) -> Access:
    """Return the access of a source. Raises Conflict where the key that sealed it is missing."""
    if not source.access.sealed:
        return Access()
    kept = json.loads(unseal(source.access.sealed))
    return Access(
        headers=tuple((name, value) for name, value in kept["headers"]), user=kept["user"], password=kept["password"]
    )


def _fault(path: str, message: str) -> Invalid:
    return Invalid(message, faults=[Fault(path=path, message=message)])


def sealed(stored: Access, *, headers: Sequence[Mapping[str, str]], user: str, password: str) -> str:
    """Validate and seal credentials. An empty value keeps the stored one of this name.

    Raises Invalid for a bad header, or one that requests set themselves.
    """
    before = dict(stored.headers)
    kept: list[tuple[str, str]] = []
    if len(headers) > _MOST:
        raise _fault("headers", f"At most {_MOST} headers are sent.")
    for place, header in enumerate(headers):
        name, value = header["name"].strip(), header["value"].strip() or before.get(header["name"].strip(), "")
        if not may_be_set(name):
            raise _fault(
                f"headers.{place}.name", f"“{name}” is not a header that can be set. Try X-Api-Key, for example."
            )
        if not value or len(value) > _LONGEST or not value.isprintable() or not value.isascii():
            raise _fault(f"headers.{place}.value", f"The value of {name} must be one line of plain letters (ASCII).")
        kept.append((name, value))
    if ":" in user:
        raise _fault("user", "A user name for basic sign-in holds no colon.")
    secret = password or (stored.password if user == stored.user else "")
    if user and not secret:
        raise _fault("password", "Give the password for this user name.")
    if not kept and not user:
        return ""
    return seal(json.dumps({"headers": kept, "user": user, "password": secret if user else ""}))


def request_for(source: Source, *, url: str = "") -> FetchRequest:
    """Return the request for a source: its feed, or another address that it names.

    Credentials and an untrusted certificate are used for the host of the source only.
    """
    own = not url or may_share_secrets(source.url, url)
    access = access_of(source) if own else Access()
    headers = access.headers
    if access.user:
        pair = base64.b64encode(f"{access.user}:{access.password}".encode()).decode()
        headers = (*headers, ("Authorization", f"Basic {pair}"))
    return FetchRequest(
        url=url or source.url,
        etag="" if url else source.state.etag,
        last_modified="" if url else source.state.last_modified,
        headers=headers,
        any_certificate=source.access.any_certificate and own,
        pause_ms=source.access.pause_ms,
        seconds=source.access.patience_s,
        tries=source.access.tries,
        rendered=source.rendered,
        hosts=tuple(source.rendered_hosts),
    )
