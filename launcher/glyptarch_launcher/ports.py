"""Ports of loopback: which are free, and who has taken the others."""

import socket
from contextlib import suppress
from pathlib import Path

from glyptarch_launcher.say import GiveUpError

__all__ = ["check_ports", "free_port"]

_LISTENING = "0A"
_LAST_PORT = 65535


def free_port() -> int:
    """Return a port of loopback that nobody listens on."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def check_ports(wanted: dict[str, tuple[str, int]]) -> None:
    """Raise GiveUpError where a port is taken.

    ``wanted`` maps options to (purpose, port). All taken ports are named together, each with its process and the next
    free port.
    """
    faults, offered = [], {port for _, port in wanted.values()}
    for option, (what, port) in wanted.items():
        if _is_free(port):
            continue
        other = next(
            (number for number in range(port + 1, _LAST_PORT) if number not in offered and _is_free(number)), 0
        )
        offered.add(other)
        owner = _owner_of(port)
        faults.append(f"Port {port}, wanted for {what}, is taken{f' by {owner}' if owner else ''}: {option} {other}")
    if faults:
        raise GiveUpError(
            "\n".join(faults)
            + "\n  End those programs (./glyptarch stop ends an earlier demo), or add the options named."
        )


def _is_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def _owner_of(port: int) -> str:
    """Return name and number of the process listening on a port.

    Empty where ``/proc`` does not show it.
    """
    inodes = {
        columns[9]
        for table in ("tcp", "tcp6")
        for columns in _rows(Path("/proc/net") / table)
        if columns[3] == _LISTENING and int(columns[1].rpartition(":")[2], 16) == port
    }
    sockets = {f"socket:[{inode}]" for inode in inodes}
    for folder in Path("/proc").glob("[0-9]*"):
        with suppress(OSError):
            if any(str(link.readlink()) in sockets for link in (folder / "fd").iterdir()):
                command = (folder / "cmdline").read_bytes().replace(b"\0", b" ").decode(errors="replace").strip()
                return f"process {folder.name} ({command[:60]})"
    return ""


def _rows(table: Path) -> list[list[str]]:
    with suppress(OSError):
        return [line.split() for line in table.read_text().splitlines()[1:]]
    return []
