"""Names of hosts that a person types."""

import re
from collections.abc import Sequence

from glyptarch_core.errors import Fault

from glyptarch_server.common.problems import Invalid

__all__ = ["checked_hosts"]

_HOST = re.compile(r"(?:[a-z0-9-]{1,63}\.)*[a-z0-9-]{1,63}(?::\d{1,5})?\Z")


def checked_hosts(names: Sequence[str], *, path: str) -> list[str]:
    """Validate host names with optional ports. Raises Invalid at ``path``."""
    hosts = list(dict.fromkeys(name.strip().lower() for name in names if name.strip()))
    odd = next((host for host in hosts if not _HOST.match(host)), "")
    if odd:
        message = f"“{odd}” is no name of a host. Write it without https:// and without a path: cdn.example"
        raise Invalid(message, faults=[Fault(path=path, message=message)])
    return hosts
