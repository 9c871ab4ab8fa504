"""``./glyptarch demo``: everything from a bare machine to a blog with posts on it."""

import json
import os
import signal
import time
from argparse import Namespace
from pathlib import Path
from types import FrameType

from glyptarch_launcher.database import Database
from glyptarch_launcher.front_end import build_web
from glyptarch_launcher.packages import Needs, ensure_debian, ensure_npm, ensure_venv
from glyptarch_launcher.paths import REPOSITORY, VAR, VENV_PYTHON
from glyptarch_launcher.ports import check_ports
from glyptarch_launcher.processes import Group, wait_for
from glyptarch_launcher.say import GiveUpError, run, say
from glyptarch_launcher.side_by_side import Step, side_by_side
from glyptarch_launcher.stamps import is_current, stamp_of

__all__ = ["demo", "stop"]

_RUNNING = VAR / "demo.json"
_MIGRATED = VAR / "migrated"
_LOADED = VAR / "demo-loaded"
_DATABASE_CHECKED_EVERY = 5.0
_SECONDS_TO_STOP = 15
_PASSWORD = "dark-meadow"  # noqa: S105 - the printed sign-in of the demo, on loopback only
_MANAGE: tuple[str | Path, ...] = (VENV_PYTHON, REPOSITORY / "server" / "manage.py")


def _is_alive(pid: int) -> bool:
    try:
        os.kill(pid, 0)
    except OSError:
        return False
    return True


def _running() -> dict[str, int] | None:
    try:
        state: dict[str, int] = json.loads(_RUNNING.read_text())
    except (OSError, ValueError):
        return None
    return state if _is_alive(state["launcher"]) else None


def stop() -> int:
    """End a demo that runs, and a database server that a killed one left behind."""
    state = _running()
    if state:
        os.kill(state["launcher"], signal.SIGTERM)
        until = time.monotonic() + _SECONDS_TO_STOP
        while _is_alive(state["launcher"]) and time.monotonic() < until:
            time.sleep(0.1)
    Database("postgres", 0).stop()
    say("Stopped." if state else "No demo is running.")
    return 0


def _environment(options: Namespace, database: Database) -> dict[str, str]:
    allowed = (os.environ.get("GLYPTARCH_FETCH_ALLOW", ""), f"127.0.0.1:{options.standins_port}")
    return {
        **os.environ,
        **database.environment(),
        "DJANGO_SETTINGS_MODULE": "glyptarch_server.config.settings",
        "GLYPTARCH_VAR": str(VAR),
        "GLYPTARCH_FETCH_ALLOW": ",".join(filter(None, allowed)),
        "GLYPTARCH_MAIL_HOST": "127.0.0.1",
        "GLYPTARCH_MAIL_PORT": str(options.mail_port),
        "GLYPTARCH_PUBLIC_ADDRESS": f"http://127.0.0.1:{options.port}",
        "PYTHONUNBUFFERED": "1",
    }


def _check(options: Namespace) -> None:
    """Raise GiveUpError for faults that would stop the demo later, before anything is installed."""
    if _running():
        raise GiveUpError("A demo is running already.\n  Use it, or end it with: ./glyptarch stop")
    wanted = {
        "--port": ("the web server", options.port),
        "--standins-port": ("the stand-ins", options.standins_port),
        "--mail-port": ("the mail stand-in", options.mail_port),
    }
    if not Database("postgres", options.database_port).running():
        wanted["--database-port"] = ("PostgreSQL", options.database_port)
    check_ports(wanted)


def demo(options: Namespace) -> int:
    """Set up, start, and wait until the person ends it."""
    _check(options)
    signal.signal(signal.SIGTERM, _interrupt)
    demo = _Demo(options)
    try:
        demo.start()
        _RUNNING.write_text(json.dumps({"launcher": os.getpid()}))
        demo.watch()
    except KeyboardInterrupt:
        print(flush=True)
        say("Stopping")
    finally:
        demo.stop()
        _RUNNING.unlink(missing_ok=True)
    return 0


def _interrupt(_signal: int, _frame: FrameType | None) -> None:
    raise KeyboardInterrupt


class _Demo:
    """The processes of a demo, and the steps that lead to them."""

    def __init__(self, options: Namespace) -> None:
        self._options = options
        self._database = Database("postgres", options.database_port)
        self._group = Group(_environment(options, self._database))

    def start(self) -> None:
        """Install, build, migrate, load and start, side by side where one does not need the other."""
        debian = Step(lambda: ensure_debian(browser=False))
        python = Step(lambda: ensure_venv(Needs.RUN))
        npm = Step(ensure_npm)
        built = Step(build_web, after=(npm, python))
        database = Step(self._start_database, after=(debian,))
        migrated = Step(self._migrate, after=(database, python))
        standins = Step(self._start_standins, after=(python,))
        loaded = Step(self._load, after=(migrated, standins))
        web = Step(self._start_web, after=(built, migrated))
        side_by_side(debian, python, npm, built, database, migrated, standins, loaded, web)
        self._group.start("worker", [*_MANAGE, "worker"])
        options = self._options
        say("Everything runs")
        print(
            f"\n  Glyptarch is ready:  http://127.0.0.1:{options.port}/\n"
            f"  Sign in as           mira   with the password   {_PASSWORD}\n"
            f"  The blog itself:     http://127.0.0.1:{options.port}/blog/dark-meadow/\n"
            f"  The outside world:   http://127.0.0.1:{options.standins_port}/control\n"
            f"  Mail that was sent:  http://127.0.0.1:{options.standins_port}/mail\n\n"
            "  Ctrl+C stops all of it.\n",
            flush=True,
        )

    def _start_database(self) -> None:
        if self._options.fresh:
            say("Starting over: removing the demo's data")
            self._database.remove()
            for path in (_MIGRATED, _LOADED):
                path.unlink(missing_ok=True)
        say("Starting PostgreSQL")
        self._database.stop()
        self._database.start()

    def _migrate(self) -> None:
        folders = [path for path in (REPOSITORY / "server").rglob("migrations") if path.is_dir()]
        value = stamp_of([*folders, Needs.RUN.lock])
        if is_current(_MIGRATED, value):
            return
        say("Bringing the database up to date")
        self._manage("migrate", "--verbosity", "0")
        _MIGRATED.write_text(value)

    def _start_standins(self) -> None:
        options = self._options
        process, log = self._group.start(
            "standins",
            [VENV_PYTHON, "-m", "glyptarch_standins", "--port", str(options.standins_port),
             "--mail-port", str(options.mail_port)],
        )  # fmt: skip
        wait_for(f"http://127.0.0.1:{options.standins_port}/control", process, log, what="the simulated outside world")

    def _load(self) -> None:
        if _LOADED.exists():
            return
        say("Loading the demo: a month of the Dark Meadow Almanac (about 20 seconds)")
        address = f"http://127.0.0.1:{self._options.standins_port}"
        self._manage("load_demo", "--standins", address, "--password", _PASSWORD)
        _LOADED.touch()

    def _start_web(self) -> None:
        port = self._options.port
        process, log = self._group.start(
            "web",
            [VENV_PYTHON, "-m", "glyptarch_server.config.web_server", "--port", str(port)],
        )
        wait_for(f"http://127.0.0.1:{port}/api/session", process, log, what="the web server")

    def _manage(self, *words: str) -> None:
        run(
            [*_MANAGE, *words],
            what=f"manage.py {words[0]}",
            remedy="./glyptarch demo --fresh starts over with an empty database.",
            env=self._group.env,
        )

    def watch(self) -> None:
        """Restart processes that end, until the person ends the demo."""
        database_checked = time.monotonic()
        while True:
            time.sleep(0.5)
            for name, log in self._group.restart_ended():
                say(f"The {name} process had ended and was started again; its log is {log}")
            if time.monotonic() - database_checked > _DATABASE_CHECKED_EVERY:
                self._restart_database()
                database_checked = time.monotonic()

    def _restart_database(self) -> None:
        if self._database.running():
            return
        try:
            self._database.start()
        except GiveUpError as error:
            say(f"PostgreSQL has ended and does not start again yet. {error}")
        else:
            say("PostgreSQL had ended and was started again")

    def stop(self) -> None:
        """End every process and the database server."""
        self._group.stop()
        self._database.stop()
