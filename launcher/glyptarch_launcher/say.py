"""Messages of the launcher, and its way of giving up."""

import signal
import subprocess
import sys
import threading
import time
from collections.abc import Mapping, Sequence
from pathlib import Path

__all__ = ["GiveUpError", "end_commands", "fail", "is_ending", "run", "say"]

_STARTED = time.monotonic()
_LAST_LINES = 12

_lock = threading.Lock()
_running: set[subprocess.Popen[str]] = set()
_ending = threading.Event()


class GiveUpError(Exception):
    """The launcher cannot continue.

    The message says why and what to do.
    """


quiet = False
"""Whether nothing is printed; for tests, whose own lines it would break."""


def say(text: str) -> None:
    """Print one line, with the seconds since the start."""
    if not quiet:
        print(f"{time.monotonic() - _STARTED:6.1f} s  {text}", flush=True)


def run(
    command: Sequence[str | Path],
    *,
    what: str,
    remedy: str,
    cwd: Path | None = None,
    env: Mapping[str, str] | None = None,
) -> str:
    """Run a command quietly and return its output.

    Raises GiveUpError with its last lines where it fails.
    """
    try:
        process = subprocess.Popen(
            [str(word) for word in command],
            cwd=cwd,
            env=env,
            stdin=subprocess.DEVNULL,
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
        )
    except FileNotFoundError as error:
        raise GiveUpError(f"{what} failed: there is no program {command[0]}.\n  {remedy}") from error
    with _lock:
        _running.add(process)
        if is_ending():
            process.terminate()
    try:
        output, errors = process.communicate()
    finally:
        with _lock:
            _running.discard(process)
    if process.returncode == -signal.SIGTERM:
        raise GiveUpError(f"{what} was broken off.\n  Run the same command again: it goes on where it stopped.")
    if process.returncode:
        last = "\n    ".join((output + errors).strip().splitlines()[-_LAST_LINES:])
        raise GiveUpError(f"{what} failed:\n    {last}\n  {remedy}")
    return output


def end_commands() -> None:
    """End every running command.

    Waiting steps give up.
    """
    _ending.set()
    with _lock:
        for process in _running:
            process.terminate()


def is_ending() -> bool:
    """Whether commands were asked to end."""
    return _ending.is_set()


def fail(error: GiveUpError) -> int:
    """Print why the launcher gave up and return exit code 1."""
    print(f"\n{error}", file=sys.stderr, flush=True)
    return 1
