"""Processes started in groups of their own, so that exactly these can be stopped."""

import contextlib
import os
import signal
import subprocess
import time
import urllib.error
import urllib.request
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

from glyptarch_launcher.paths import LOGS
from glyptarch_launcher.say import GiveUpError, is_ending, say

__all__ = ["Group", "Member", "wait_for"]


def wait_for(url: str, process: subprocess.Popen[bytes], log: Path, *, what: str) -> None:
    """Wait until an address answers, as long as its process lives.

    Raises GiveUpError with the end of the log when the process ends first.
    """
    said = time.monotonic()
    while process.poll() is None and not is_ending():
        with contextlib.suppress(OSError, urllib.error.URLError), urllib.request.urlopen(url, timeout=2):  # noqa: S310
            return
        if time.monotonic() - said > _SAID_AGAIN_AFTER:
            say(f"Still waiting for {what} to answer at {url}; its log is {log}")
            said = time.monotonic()
        time.sleep(0.1)
    if is_ending():
        raise GiveUpError(f"Waiting for {what} was broken off.")
    last = "\n    ".join(log.read_text(errors="replace").splitlines()[-12:])
    raise GiveUpError(f"{what[:1].upper()}{what[1:]} has ended. The last lines of {log}:\n    {last}")


_SAID_AGAIN_AFTER = 15.0
_FIRST_PAUSE = 1.0
_LONGEST_PAUSE = 30.0
_SETTLED = 20.0


def _log_of(name: str) -> Path:
    return LOGS / f"{name}.log"


@dataclass(slots=True, kw_only=True)
class Member:
    """One process of a group.

    One that ends soon after its start waits longer before each restart.
    """

    name: str
    command: Sequence[str | Path]
    process: subprocess.Popen[bytes]
    begun: float
    pause: float = _FIRST_PAUSE
    due: float | None = None


@dataclass(slots=True)
class Group:
    """Processes that are started and stopped together."""

    env: Mapping[str, str]
    members: list[Member] = field(default_factory=list)

    def start(self, name: str, command: Sequence[str | Path]) -> tuple[subprocess.Popen[bytes], Path]:
        """Start a process.

        Return it with the path of its log file.
        """
        log = _log_of(name)
        if log.exists():
            # The log of the last run explains why the process ended, so it is kept.
            log.replace(log.with_suffix(".before.log"))
        process = self._spawn(name, command)
        self.members.append(Member(name=name, command=command, process=process, begun=time.monotonic()))
        return process, log

    def _spawn(self, name: str, command: Sequence[str | Path]) -> subprocess.Popen[bytes]:
        LOGS.mkdir(parents=True, exist_ok=True)
        with _log_of(name).open("ab") as file:
            return subprocess.Popen(
                [str(part) for part in command],
                env=dict(self.env),
                stdin=subprocess.DEVNULL,
                stdout=file,
                stderr=subprocess.STDOUT,
                start_new_session=True,
            )

    def restart_ended(self) -> list[tuple[str, Path]]:
        """Restart the processes that have ended.

        Return their names and logs. The first restart waits a second. A process that ends again within twenty seconds
        waits twice as long each time, up to half a minute.
        """
        now, restarted = time.monotonic(), []
        for member in self.members:
            if member.process.poll() is None:
                continue
            if member.due is None:
                lived = now - member.begun
                member.pause = _FIRST_PAUSE if lived > _SETTLED else min(2 * member.pause, _LONGEST_PAUSE)
                member.due = now + member.pause
            if now >= member.due:
                member.process, member.begun, member.due = self._spawn(member.name, member.command), now, None
                restarted.append((member.name, _log_of(member.name)))
        return restarted

    def stop(self) -> None:
        """End every process of the group: politely, and after five seconds for good."""
        processes = [member.process for member in self.members]
        for process in reversed(processes):
            if process.poll() is None:
                with contextlib.suppress(ProcessLookupError):
                    os.killpg(process.pid, signal.SIGTERM)
        end = time.monotonic() + 5
        for process in processes:
            try:
                process.wait(max(0.1, end - time.monotonic()))
            except subprocess.TimeoutExpired:
                with contextlib.suppress(ProcessLookupError):
                    os.killpg(process.pid, signal.SIGKILL)
                process.wait()
        self.members.clear()
