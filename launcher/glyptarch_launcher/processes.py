"""The processes of a demo: started in groups of their own, so that exactly they can be stopped."""

import contextlib
import os
import signal
import socket
import subprocess
import time
import urllib.error
import urllib.request
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

from glyptarch_launcher.paths import LOGS
from glyptarch_launcher.say import GiveUpError

__all__ = ["Group", "check_port", "free_port", "wait_for"]


def free_port() -> int:
    """Give a port of loopback that nobody listens on."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def check_port(port: int, what: str, option: str) -> None:
    """Raise GiveUpError when somebody listens on a port already."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError as error:
            raise GiveUpError(
                f"Port {port}, wanted for {what}, is taken.\n"
                f"  Stop what uses it (./glyptarch stop, if it is an earlier demo), or choose another: {option} NUMBER"
            ) from error


def wait_for(url: str, process: subprocess.Popen[bytes], log: Path, *, seconds: float = 30) -> None:
    """Wait until an address answers. Raises GiveUpError when its process ends or the time is over."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if process.poll() is not None:
            break
        with contextlib.suppress(OSError, urllib.error.URLError), urllib.request.urlopen(url, timeout=2):  # noqa: S310
            return
        time.sleep(0.1)
    last = "\n    ".join(log.read_text(errors="replace").splitlines()[-12:])
    raise GiveUpError(f"{url} does not answer. The last lines of {log}:\n    {last}")


@dataclass(slots=True)
class Group:
    """Processes that are started and stopped together."""

    env: Mapping[str, str]
    started: list[subprocess.Popen[bytes]] = field(default_factory=list)

    def start(self, name: str, command: Sequence[str | Path]) -> tuple[subprocess.Popen[bytes], Path]:
        """Start a process; what it prints goes to a log file, whose path comes back with it."""
        LOGS.mkdir(parents=True, exist_ok=True)
        log = LOGS / f"{name}.log"
        with log.open("wb") as file:
            process = subprocess.Popen(
                [str(part) for part in command],
                env=dict(self.env),
                stdin=subprocess.DEVNULL,
                stdout=file,
                stderr=subprocess.STDOUT,
                start_new_session=True,
            )
        self.started.append(process)
        return process, log

    def stop(self) -> None:
        """End every process of the group: politely, and after five seconds for good."""
        for process in reversed(self.started):
            if process.poll() is None:
                with contextlib.suppress(ProcessLookupError):
                    os.killpg(process.pid, signal.SIGTERM)
        end = time.monotonic() + 5
        for process in self.started:
            try:
                process.wait(max(0.1, end - time.monotonic()))
            except subprocess.TimeoutExpired:
                with contextlib.suppress(ProcessLookupError):
                    os.killpg(process.pid, signal.SIGKILL)
                process.wait()
        self.started.clear()
