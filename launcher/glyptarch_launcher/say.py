"""What the launcher tells the person at the terminal, and how it gives up."""

import subprocess
import sys
import time
from collections.abc import Mapping, Sequence
from pathlib import Path

__all__ = ["GiveUpError", "fail", "run", "say"]

_BEGUN = time.monotonic()


class GiveUpError(Exception):
    """The launcher cannot go on; the message says why and what to do."""


def say(text: str) -> None:
    """Print one line, with the seconds since the start."""
    print(f"{time.monotonic() - _BEGUN:6.1f} s  {text}", flush=True)


def run(
    command: Sequence[str | Path],
    *,
    what: str,
    remedy: str,
    cwd: Path | None = None,
    env: Mapping[str, str] | None = None,
) -> str:
    """Run a command quietly. Raises GiveUpError with its last lines when it fails."""
    try:
        done = subprocess.run(
            [str(part) for part in command], cwd=cwd, env=env, capture_output=True, text=True, check=False
        )
    except FileNotFoundError as error:
        raise GiveUpError(f"{what} failed: there is no program {command[0]}.\n  {remedy}") from error
    if done.returncode:
        last = "\n    ".join((done.stdout + done.stderr).strip().splitlines()[-12:])
        raise GiveUpError(f"{what} failed:\n    {last}\n  {remedy}")
    return done.stdout


def fail(error: GiveUpError) -> int:
    """Print why the launcher gave up; the exit code is 1."""
    print(f"\n{error}", file=sys.stderr, flush=True)
    return 1
