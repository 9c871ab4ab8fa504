"""``./glyptarch mutants [WORD …]``: break the code, one line at a time, and see that tests fail.

Those whose description holds one of the words are tried, or all; the words ``core``, ``server`` and ``desk`` stand
for a part. The files are put back as they were, whatever happens. ``--check`` only looks whether every line is still
where it is said to be.
"""

import os
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

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

    def command(self, mutant: Mutant) -> tuple[list[str | Path], Path]:
        """Return the command that runs the tests of a mutant, and its folder."""
        if self.name == "desk":
            files = [f"src/{name}" for name in mutant.tests.split()]
            return ["npx", "vitest", "run", "--bail=1", *files], _REPOSITORY / "web"
        labels = [f"tests.{self.name}.{name}" for name in mutant.tests.split()]
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
    _Part("server", _REPOSITORY / "server" / "glyptarch_server", SERVER),
    _Part("desk", _REPOSITORY / "web" / "src", DESK),
)


def _fault(part: _Part, mutant: Mutant) -> str:
    """Say why a mutant cannot be tried; empty where it can."""
    path = part.folder / mutant.file
    if not path.exists():
        return f"there is no {mutant.file}"
    times = path.read_text().count(mutant.old)
    return "" if times == 1 else f"{mutant.file} holds the line {times} times, not once"


def _is_caught(part: _Part, mutant: Mutant) -> bool:
    path = part.folder / mutant.file
    sound = path.read_text()
    command, folder = part.command(mutant)
    try:
        path.write_text(sound.replace(mutant.old, mutant.new))
        done = subprocess.run(
            [str(word) for word in command],
            cwd=folder,
            env={**os.environ, "PYTHONDONTWRITEBYTECODE": "1"},
            capture_output=True,
            check=False,
            timeout=_SECONDS,
        )
    except subprocess.TimeoutExpired:
        return True
    finally:
        path.write_text(sound)
    return done.returncode != 0


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
        outcome = "no match" if fault else "matches" if check else "caught" if _is_caught(part, mutant) else "SURVIVED"
        outcomes[outcome] = outcomes.get(outcome, 0) + 1
        if outcome != "matches":
            print(f"{outcome:9} {part.name}: {mutant.what}{f' ({fault})' if fault else ''}", flush=True)
    print(", ".join(f"{number} {outcome}" for outcome, number in outcomes.items()))
    return 1 if outcomes.keys() - {"caught", "matches"} else 0


if __name__ == "__main__":
    sys.exit(_main(sys.argv[1:]))
