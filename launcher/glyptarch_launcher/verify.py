"""``./glyptarch check`` and ``./glyptarch test``."""

import json
import os
import subprocess
from argparse import Namespace
from collections.abc import Sequence
from pathlib import Path

from glyptarch_launcher.database import Database
from glyptarch_launcher.paths import REPOSITORY, VAR, VENV, VENV_PYTHON, WEB
from glyptarch_launcher.processes import free_port
from glyptarch_launcher.say import say
from glyptarch_launcher.setup import build_web, ensure_debian, ensure_npm, ensure_venv

__all__ = ["check", "pass_on", "test"]

_SHOWN = 80
_BIN = VENV / "bin"
_SETTINGS = {"DJANGO_SETTINGS_MODULE": "glyptarch_server.config.settings", "GLYPTARCH_VAR": str(VAR)}


def _steps() -> list[tuple[str, list[str | Path], Path]]:
    manage: list[str | Path] = [VENV_PYTHON, REPOSITORY / "server" / "manage.py"]
    return [
        ("ruff check", [_BIN / "ruff", "check", "."], REPOSITORY),
        ("ruff format", [_BIN / "ruff", "format", "--check", "."], REPOSITORY),
        ("import-linter", [_BIN / "lint-imports"], REPOSITORY),
        ("mypy", [_BIN / "mypy"], REPOSITORY),
        ("API schema is current", [*manage, "export_schema", "--check"], REPOSITORY),
        ("API types are current", ["npm", "run", "-s", "types:check"], WEB),
        ("biome", ["npm", "run", "-s", "lint"], WEB),
        ("tsc", ["npm", "run", "-s", "types"], WEB),
    ]


def check(_given: Namespace) -> int:
    """Run the linters and type checkers; all of them, so that one look shows every fault."""
    ensure_debian(browser=False)
    ensure_venv()
    ensure_npm()
    failed = []
    for name, command, folder in _steps():
        say(name)
        done = subprocess.run(
            [str(part) for part in command],
            cwd=folder,
            env={**os.environ, **_SETTINGS},
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode:
            failed.append(name)
            print("\n".join((done.stdout + done.stderr).splitlines()[-_SHOWN:]), flush=True)
    say(f"Failed: {', '.join(failed)}" if failed else "All checks hold.")
    return 1 if failed else 0


def test(given: Namespace) -> int:
    """Run every test: the front end's, then Django's, the browser's among them."""
    ensure_debian(browser=True)
    ensure_venv()
    ensure_npm()
    build_web()
    passed, failed = (0, 0) if given.labels else _web_tests()
    database = Database("test-postgres", free_port(), fast=True)
    counts = VAR / "test-counts.json"
    counts.unlink(missing_ok=True)
    try:
        database.start()
        say("Tests of core, server, stand-ins, launcher and browser")
        code = subprocess.run(
            [str(VENV_PYTHON), "-W", "error::RuntimeWarning", str(REPOSITORY / "server" / "manage.py"), "test",
             "--noinput", "--top-level", str(REPOSITORY), *(given.labels or ["tests"])],
            cwd=REPOSITORY,
            env={**os.environ, **_SETTINGS, **database.environment(), "GLYPTARCH_TEST_COUNTS": str(counts)},
            check=False,
        ).returncode  # fmt: skip
    finally:
        database.stop()
    if counts.exists():
        found = json.loads(counts.read_text())
        passed, failed = passed + found["passed"], failed + found["failed"]
    elif code == 0:
        failed += 1
    print(f"{passed} passed, {failed} failed", flush=True)
    return 1 if code or failed else 0


def pass_on(command: str, words: Sequence[str]) -> int:
    """Hand a command and its words over to the program that knows it."""
    ensure_venv()
    module = {
        "proof": "glyptarch_server.config.proof_cli",
        "benchmark": "benchmarks",
        "mutants": "tools.mutants",
    }[command]
    env = {**os.environ, **_SETTINGS}
    if command == "proof":
        return subprocess.run([str(VENV_PYTHON), "-m", module, *words], env=env, check=False).returncode
    ensure_debian(browser=False)
    database = Database("benchmark-postgres", free_port(), fast=True)
    try:
        # One that an interrupted measurement left behind would be in the way.
        database.stop()
        database.start()
        env |= database.environment()
        return subprocess.run([str(VENV_PYTHON), "-m", module, *words], env=env, check=False).returncode
    finally:
        database.stop()


def _web_tests() -> tuple[int, int]:
    say("Tests of the front end")
    report = VAR / "vitest.json"
    report.unlink(missing_ok=True)
    done = subprocess.run(
        ["npx", "vitest", "run", "--reporter=default", "--reporter=json", f"--outputFile.json={report}"],
        cwd=WEB,
        capture_output=True,
        text=True,
        check=False,
    )
    if done.returncode:
        print(done.stdout + done.stderr, flush=True)
    if not report.exists():
        return 0, 1
    found = json.loads(report.read_text())
    failed = int(found["numFailedTests"]) or int(done.returncode != 0)
    return int(found["numPassedTests"]), failed
