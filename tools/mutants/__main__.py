"""``./glyptarch mutants [WORD …]``: break the code one line at a time.

Tests must fail. Words select mutants by their description; ``core``, ``server`` and ``desk`` select a part. Files are
always restored. UNSOUND means that the tests fail without a change. ``--check`` only checks that every line still
matches.
"""

import os
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from tools.mutants.border import BORDER
from tools.mutants.core import CORE
from tools.mutants.desk import DESK
from tools.mutants.model import Mutant
from tools.mutants.server import SERVER

__all__: list[str] = []

_REPOSITORY = Path(__file__).resolve().parents[2]
_SECONDS = 300


@dataclass(frozen=True, slots=True)
class _Part:
    """A part of the code: where its files lie and what its mutants are."""

    name: str
    folder: Path
    mutants: tuple[Mutant, ...]

    def command(self, tests: str) -> tuple[list[str | Path], Path]:
        """Return the command that runs some tests, and its folder."""
        if self.name == "desk":
            files = [f"src/{name}" for name in tests.split()]
            return ["npx", "vitest", "run", "--bail=1", *files], _REPOSITORY / "web"
        labels = [f"tests.{self.name}.{name}" for name in tests.split()]
        manage = _REPOSITORY / "server" / "manage.py"
        command: list[str | Path] = [
            sys.executable,
            "-B",
            manage,
            "test",
            "--testrunner",
            "tests.running.runner.Runner",
        ]
        return [*command, "--noinput", "--failfast", "--top-level", _REPOSITORY, *labels], _REPOSITORY


_PARTS = (
    _Part("core", _REPOSITORY / "core" / "glyptarch_core", CORE),
    _Part("server", _REPOSITORY / "server" / "glyptarch_server", SERVER + BORDER),
    _Part("desk", _REPOSITORY / "web" / "src", DESK),
)


def _fault(part: _Part, mutant: Mutant) -> str:
    """Return why a mutant cannot be tried.

    Empty where it can.
    """
    path = part.folder / mutant.file
    if not path.exists():
        return f"there is no {mutant.file}"
    times = path.read_text().count(mutant.old)
    return "" if times == 1 else f"{mutant.file} holds the line {times} times, not once"


@cache
def _pass_as_they_are(part: _Part, tests: str) -> bool:
    """Whether the tests pass without a change, as a mutant's result requires."""
    return _tests_pass(part, tests)


def _tests_pass(part: _Part, tests: str) -> bool:
    command, folder = part.command(tests)
    try:
        done = subprocess.run(
            [str(word) for word in command],
            cwd=folder,
            env={**os.environ, "PYTHONDONTWRITEBYTECODE": "1"},
            capture_output=True,
            check=False,
            timeout=_SECONDS,
        )
    except subprocess.TimeoutExpired:
        return False
    return done.returncode == 0


def _outcome(part: _Part, mutant: Mutant) -> str:
    if not _pass_as_they_are(part, mutant.tests):
        return "UNSOUND"
    path = part.folder / mutant.file
    sound = path.read_text()
    try:
        path.write_text(sound.replace(mutant.old, mutant.new))
        return "SURVIVED" if _tests_pass(part, mutant.tests) else "caught"
    finally:
        path.write_text(sound)


def _chosen(words: list[str]) -> Iterator[tuple[_Part, Mutant]]:
    names = {part.name for part in _PARTS}
    for part in _PARTS:
        for mutant in part.mutants:
            if not words or part.name in words or any(word in mutant.what for word in set(words) - names):
                yield part, mutant


def _main(words: list[str]) -> int:
    check = "--check" in words
    outcomes: dict[str, int] = {}
    for part, mutant in _chosen([word for word in words if word != "--check"]):
        fault = _fault(part, mutant)
        outcome = "no match" if fault else "matches" if check else _outcome(part, mutant)
        outcomes[outcome] = outcomes.get(outcome, 0) + 1
        if outcome != "matches":
            print(f"{outcome:9} {part.name}: {mutant.what}{f' ({fault})' if fault else ''}", flush=True)
    print(", ".join(f"{number} {outcome}" for outcome, number in outcomes.items()))
    return 1 if outcomes.keys() - {"caught", "matches"} else 0


if __name__ == "__main__":
    sys.exit(_main(sys.argv[1:]))
