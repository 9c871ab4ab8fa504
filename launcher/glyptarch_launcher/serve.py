"""``./glyptarch serve``: Glyptarch in production, with ``backup`` and ``restore``.

All settings come from the environment (docs/glyptarch.env.example). Each part can run alone, by systemd or in a
container.
"""

import os
import signal
import subprocess
import time
from argparse import Namespace
from collections.abc import Sequence
from pathlib import Path

from glyptarch_launcher.database import Database
from glyptarch_launcher.front_end import ensure_web
from glyptarch_launcher.packages import Needs, ensure_venv
from glyptarch_launcher.paths import REPOSITORY, VAR, VENV_PYTHON
from glyptarch_launcher.processes import Group
from glyptarch_launcher.say import GiveUpError, run, say

__all__ = ["PARTS", "manage", "prepare", "serve"]

PARTS = ("web", "worker", "clock", "migrate")
_MANAGE = (VENV_PYTHON, REPOSITORY / "server" / "manage.py")
_NEEDED = (
    ("GLYPTARCH_SECRET_KEY", "signs sessions: openssl rand -base64 48"),
    ("GLYPTARCH_ENCRYPTION_KEYS", "encrypts kept passwords: openssl rand -base64 32 | tr '+/' '-_'"),
    ("GLYPTARCH_DB_PASSWORD", "the password of the database"),
    ("GLYPTARCH_HOSTS", "the names that the server answers to"),
)


def _environment() -> dict[str, str]:
    missing = [f"  {name}: {text}" for name, text in _NEEDED if not os.environ.get(name)]
    if missing:
        listed = "\n".join(missing)
        raise GiveUpError(f"These settings are missing:\n{listed}\n  docs/glyptarch.env.example has all of them.")
    return {
        "GLYPTARCH_VAR": str(VAR),
        "GLYPTARCH_LOG": "json",
        **os.environ,
        "DJANGO_SETTINGS_MODULE": "glyptarch_server.config.settings",
        "GLYPTARCH_PRODUCTION": "1",
        "PYTHONUNBUFFERED": "1",
    }


def _command(part: str, given: Namespace) -> list[str | Path]:
    if part == "web":
        server = "glyptarch_server.config.web_server"
        return [VENV_PYTHON, "-m", server, "--host", given.host, "--port", str(given.port)]
    return [*_MANAGE, part, *(["--without-clock"] if part == "worker" else [])]


def prepare() -> int:
    """Install the packages and build the front end.

    The settings are not needed for it.
    """
    ensure_venv(Needs.RUN)
    ensure_web()
    return 0


def serve(options: Namespace) -> int:
    """Run one part in place of this process, or web, worker and clock together.

    Parts that end are restarted.
    """
    env = _environment()
    ensure_venv(Needs.RUN)
    if options.part in {None, "web"}:
        ensure_web()
    if options.part:
        command = [str(word) for word in _command(options.part, options)]
        os.execve(command[0], command, env)  # noqa: S606 - the process becomes the part, so that signals reach it
    run([*_MANAGE, "migrate", "--verbosity", "0"], what="Bringing the database up to date",
        remedy="Look at the lines above; the settings of the database are GLYPTARCH_DB_…", env=env)  # fmt: skip
    return _together(options, env)


def _together(given: Namespace, env: dict[str, str]) -> int:
    group = Group(env)
    signal.signal(signal.SIGTERM, _interrupt)
    try:
        for part in ("web", "worker", "clock"):
            group.start(f"serve-{part}", _command(part, given))
        say(f"Web, worker and clock run; the desk is at http://{given.host}:{given.port}/")
        while True:
            time.sleep(0.5)
            for name, log in group.restart_ended():
                say(f"The {name} process had ended and was started again; its log is {log}")
    except KeyboardInterrupt:
        say("Stopping")
    finally:
        group.stop()
    return 0


def _interrupt(_signal: int, _frame: object) -> None:
    raise KeyboardInterrupt


def _of_this_machine() -> dict[str, str]:
    """Return the environment of a server, complete, or that of the running demo."""
    if os.environ.get("GLYPTARCH_DB_PASSWORD"):
        return _environment()
    demo = Database("postgres", 54329)
    if not demo.running():
        raise GiveUpError(
            "No database is named.\n  Set GLYPTARCH_DB_HOST, _PORT, _NAME, _USER and _PASSWORD, or start the demo."
        )
    return {**os.environ, **demo.environment(), "GLYPTARCH_DB_PORT": str(demo.running_port())}


def manage(words: Sequence[str]) -> int:
    """Run a ``manage.py`` command: ``backup FILE``, ``restore FILE``, ``first_owner NAME …``."""
    ensure_venv(Needs.RUN)
    env = {**_of_this_machine(), "DJANGO_SETTINGS_MODULE": "glyptarch_server.config.settings"}
    command = [str(word) for word in (*_MANAGE, *words)]
    return subprocess.run(command, env={"GLYPTARCH_VAR": str(VAR), **env}, check=False).returncode
