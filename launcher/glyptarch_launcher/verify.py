"""``./glyptarch check`` and ``./glyptarch test``, and what measures and breaks the code."""

import fcntl
import json
import os
import subprocess
from argparse import Namespace
from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

from glyptarch_launcher.database import Database
from glyptarch_launcher.front_end import build_web
from glyptarch_launcher.packages import Needs, ensure_debian, ensure_npm, ensure_venv
from glyptarch_launcher.paths import REPOSITORY, VAR, VENV, VENV_PYTHON, WEB
from glyptarch_launcher.ports import free_port
from glyptarch_launcher.say import say
from glyptarch_launcher.side_by_side import Step, side_by_side

__all__ = ["check", "pass_on", "test"]

_SHOWN = 80
_BIN = VENV / "bin"
_SETTINGS = {"DJANGO_SETTINGS_MODULE": "glyptarch_server.config.settings", "GLYPTARCH_VAR": str(VAR)}
_CORES = len(os.sched_getaffinity(0))


def _checks() -> list[tuple[str, list[str | Path], Path]]:
    """Return name, command and folder of each check, longest first."""
    manage: list[str | Path] = [VENV_PYTHON, REPOSITORY / "server" / "manage.py"]
    return [
        ("tsc", ["npm", "run", "-s", "types"], WEB),
        ("mypy", [_BIN / "mypy"], REPOSITORY),
        ("API schema is current", [*manage, "export_schema", "--check"], REPOSITORY),
        ("API types are current", ["npm", "run", "-s", "types:check"], WEB),
        ("biome", ["npm", "run", "-s", "lint"], WEB),
        ("mutants match", [VENV_PYTHON, "-m", "tools.mutants", "--check"], REPOSITORY),
        ("wording", [VENV_PYTHON, "-m", "tools.voice"], REPOSITORY),
        ("ruff check", [_BIN / "ruff", "check", "."], REPOSITORY),
        ("ruff format", [_BIN / "ruff", "format", "--check", "."], REPOSITORY),
        ("import-linter", [_BIN / "lint-imports"], REPOSITORY),
    ]


def check(_options: Namespace) -> int:
    """Run all linters and type checkers, one per core.

    Every check runs, so that one look shows every fault.
    """
    side_by_side(Step(lambda: ensure_venv(Needs.TEST)), Step(ensure_npm))
    failed = []

    def run(name: str, command: Sequence[str | Path], folder: Path) -> None:
        done = subprocess.run(
            [str(word) for word in command],
            cwd=folder,
            env={**os.environ, **_SETTINGS},
            capture_output=True,
            text=True,
            check=False,
        )
        say(f"{name}: {'failed' if done.returncode else 'holds'}")
        if done.returncode:
            failed.append(name)
            print("\n".join((done.stdout + done.stderr).splitlines()[-_SHOWN:]), flush=True)

    with ThreadPoolExecutor(_CORES) as pool:
        for future in [pool.submit(run, *entry) for entry in _checks()]:
            future.result()
    say(f"Failed: {', '.join(failed)}" if failed else "All checks hold.")
    return 1 if failed else 0


def test(options: Namespace) -> int:
    """Run tests of front end, Django and browser, all or the named ones."""
    debian = Step(lambda: ensure_debian(browser=True))
    python = Step(lambda: ensure_venv(Needs.TEST))
    npm = Step(ensure_npm)
    side_by_side(debian, python, npm, Step(build_web, after=(npm, python)))
    labels, web = list(options.labels), not options.labels
    if "web" in labels:
        labels.remove("web")
        web = True
    if options.changed is not None:
        labels, web = _touched(options.changed), True
        if not labels:
            say("No test of Python is touched.")
    passed, failed = _web_tests(options.changed) if web else (0, 0)
    if labels or not web or (not options.labels and options.changed is None):
        more_passed, more_failed = _django_tests(labels or ["tests"], options)
        passed, failed = passed + more_passed, failed + more_failed
    print(f"{passed} passed, {failed} failed", flush=True)
    return 1 if failed or not passed else 0


def _touched(ref: str) -> list[str]:
    command = [str(VENV_PYTHON), "-m", "tests.running.changed", ref]
    return subprocess.run(command, cwd=REPOSITORY, capture_output=True, text=True, check=True).stdout.split()


def _django_tests(labels: Sequence[str], options: Namespace) -> tuple[int, int]:
    order = ["--shuffle", *([str(options.seed)] if options.seed is not None else [])]
    with _own_database("test-postgres") as database:
        counts = VAR / f"{database.name}-counts.json"
        counts.unlink(missing_ok=True)
        say("Tests of core, server, stand-ins, launcher and browser")
        code = subprocess.run(
            [str(VENV_PYTHON), "-W", "error::RuntimeWarning", str(REPOSITORY / "server" / "manage.py"), "test",
             "--testrunner", "tests.running.runner.Runner", "--noinput", "--top-level", str(REPOSITORY),
             "--parallel", str(options.processes or _CORES), *labels,
             *(order if options.shuffle or options.seed is not None else [])],
            cwd=REPOSITORY,
            env={**os.environ, **_SETTINGS, **database.environment(), "GLYPTARCH_TEST_COUNTS": str(counts)},
            check=False,
        ).returncode  # fmt: skip
    if not counts.exists():
        return 0, 1
    found = json.loads(counts.read_text())
    counts.unlink()
    return found["passed"], found["failed"] or int(code != 0)


@contextmanager
def _own_database(name: str) -> Iterator[Database]:
    """Start a database server for one command.

    Concurrent commands each get a folder of their own.
    """
    VAR.mkdir(parents=True, exist_ok=True)
    with (VAR / f"{name}.lock").open("w") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            database, end = Database(f"{name}-{os.getpid()}", free_port(), fast=True), Database.remove
        else:
            database, end = Database(name, free_port(), fast=True), Database.stop
        # Stop a server left by an interrupted run.
        database.stop()
        try:
            database.start()
            yield database
        finally:
            end(database)


def pass_on(command: str, words: Sequence[str]) -> int:
    """Hand a command and its words over to the program that knows it."""
    module = {
        "proof": "glyptarch_server.config.proof_cli",
        "benchmark": "benchmarks",
        "mutants": "tools.mutants",
        "faults": "tools.faults",
    }[command]
    ensure_venv(Needs.RUN if command == "proof" else Needs.TEST)
    env: Mapping[str, str] = {**os.environ, **_SETTINGS}
    if command == "proof":
        return subprocess.run([str(VENV_PYTHON), "-m", module, *words], env=env, check=False).returncode
    ensure_debian(browser=False)
    if command == "faults":
        # It starts a database server of its own, because it kills it.
        return subprocess.run([str(VENV_PYTHON), "-m", module, *words], env=env, check=False).returncode
    if command == "mutants":
        ensure_npm()
    with _own_database("benchmark-postgres") as database:
        env = {**env, **database.environment()}
        return subprocess.run([str(VENV_PYTHON), "-m", module, *words], env=env, check=False).returncode


def _web_tests(changed: str | None) -> tuple[int, int]:
    """Run the front end's tests.

    Return how many passed and failed.
    """
    say("Tests of the front end")
    report = VAR / "vitest.json"
    report.unlink(missing_ok=True)
    done = subprocess.run(
        ["npx", "vitest", "run", "--reporter=default", "--reporter=json", f"--outputFile.json={report}",
         f"--maxWorkers={_CORES}", "--passWithNoTests", *([] if changed is None else [f"--changed={changed}"])],
        cwd=WEB,
        capture_output=True,
        text=True,
        check=False,
    )  # fmt: skip
    if done.returncode:
        print(done.stdout + done.stderr, flush=True)
    if not report.exists():
        return (0, 0) if done.returncode == 0 else (0, 1)
    found = json.loads(report.read_text())
    failed = int(found["numFailedTests"]) or int(done.returncode != 0)
    return int(found["numPassedTests"]), failed
