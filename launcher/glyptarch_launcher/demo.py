"""``./glyptarch demo``: everything from a bare machine to a blog with posts on it."""

import json
import os
import signal
import time
from argparse import Namespace
from pathlib import Path

from glyptarch_launcher.database import Database
from glyptarch_launcher.paths import REPOSITORY, VAR, VENV_PYTHON
from glyptarch_launcher.processes import Group, check_port, wait_for
from glyptarch_launcher.say import GiveUpError, run, say
from glyptarch_launcher.setup import build_web, ensure_debian, ensure_npm, ensure_venv, stamp_of

__all__ = ["demo", "stop"]

_RUNNING = VAR / "demo.json"
_MIGRATED = VAR / "migrated"
_LOADED = VAR / "demo-loaded"
_LOOK_AT_DATABASE = 5.0
_PASSWORD = "dark-meadow"  # noqa: S105 - the printed sign-in of the demo, on loopback only


def _alive(pid: int) -> bool:
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
    return state if _alive(state["launcher"]) else None


def stop() -> int:
    """End a demo that runs, and a database server that a killed one left behind."""
    state = _running()
    if state:
        os.kill(state["launcher"], signal.SIGTERM)
        for _ in range(150):
            if not _alive(state["launcher"]):
                break
            time.sleep(0.1)
    Database("postgres", 0).stop()
    say("Stopped." if state else "No demo is running.")
    return 0


def _environment(given: Namespace, database: Database) -> dict[str, str]:
    return {
        **os.environ,
        **database.environment(),
        "DJANGO_SETTINGS_MODULE": "glyptarch_server.config.settings",
        "GLYPTARCH_VAR": str(VAR),
        "GLYPTARCH_FETCH_ALLOW": f"127.0.0.1:{given.standins_port}",
        "GLYPTARCH_MAIL_HOST": "127.0.0.1",
        "GLYPTARCH_MAIL_PORT": str(given.mail_port),
        "GLYPTARCH_PUBLIC_ADDRESS": f"http://127.0.0.1:{given.port}",
        "PYTHONUNBUFFERED": "1",
    }


def _manage(env: dict[str, str], *words: str) -> None:
    run(
        [VENV_PYTHON, REPOSITORY / "server" / "manage.py", *words],
        what=f"manage.py {words[0]}",
        remedy="./glyptarch demo --fresh starts over with an empty database.",
        env=env,
    )


def _migrate(env: dict[str, str]) -> None:
    folders = [path for path in (REPOSITORY / "server").rglob("migrations") if path.is_dir()]
    value = stamp_of([*folders, REPOSITORY / "requirements.txt"])
    if _MIGRATED.is_file() and _MIGRATED.read_text() == value:
        return
    say("Bringing the database up to date")
    _manage(env, "migrate", "--verbosity", "0")
    _MIGRATED.write_text(value)


def _load(env: dict[str, str], given: Namespace) -> None:
    if _LOADED.exists():
        return
    say("Loading the demo: a month of the Dark Meadow Almanac (about a minute)")
    _manage(env, "load_demo", "--standins", f"http://127.0.0.1:{given.standins_port}", "--password", _PASSWORD)
    _LOADED.touch()


def _fresh(database: Database) -> None:
    say("Starting over: removing the demo's data")
    database.remove()
    for path in (_MIGRATED, _LOADED):
        path.unlink(missing_ok=True)


def _check_ports(given: Namespace) -> None:
    if _running():
        raise GiveUpError("A demo is running already.\n  Use it, or end it with: ./glyptarch stop")
    check_port(given.port, "the web server", "--port")
    check_port(given.standins_port, "the stand-ins", "--standins-port")
    check_port(given.mail_port, "the mail stand-in", "--mail-port")
    if not Database("postgres", given.database_port).running():
        check_port(given.database_port, "PostgreSQL", "--database-port")


def demo(given: Namespace) -> int:
    """Set up, start, and wait until the person ends it."""
    _check_ports(given)
    ensure_debian(browser=False)
    ensure_venv()
    ensure_npm()
    build_web()
    database = Database("postgres", given.database_port)
    if given.fresh:
        _fresh(database)
    group = Group(_environment(given, database))
    signal.signal(signal.SIGTERM, _interrupt)
    try:
        _start(given, database, group)
        _RUNNING.write_text(json.dumps({"launcher": os.getpid()}))
        _watch(group, database)
    except KeyboardInterrupt:
        print(flush=True)
        say("Stopping")
    finally:
        group.stop()
        database.stop()
        _RUNNING.unlink(missing_ok=True)
    return 0


def _interrupt(_signal: int, _frame: object) -> None:
    raise KeyboardInterrupt


def _start(given: Namespace, database: Database, group: Group) -> None:
    say("Starting PostgreSQL, stand-ins, worker and web server")
    database.stop()
    database.start()
    env = dict(group.env)
    _migrate(env)
    standins = group.start(
        "standins",
        [VENV_PYTHON, "-m", "glyptarch_standins", "--port", str(given.standins_port),
         "--mail-port", str(given.mail_port)],
    )  # fmt: skip
    manage: list[str | Path] = [VENV_PYTHON, REPOSITORY / "server" / "manage.py"]
    web = group.start(
        "web",
        [VENV_PYTHON, "-m", "uvicorn", "--host", "127.0.0.1", "--port", str(given.port), "--lifespan", "off",
         "--no-access-log", "--no-proxy-headers", "glyptarch_server.config.asgi:application"],
    )  # fmt: skip
    wait_for(f"http://127.0.0.1:{given.standins_port}/control", *standins)
    _load(env, given)
    group.start("worker", [*manage, "worker"])
    wait_for(f"http://127.0.0.1:{given.port}/api/session", *web)
    print(
        f"\n  Glyptarch is ready:  http://127.0.0.1:{given.port}/\n"
        f"  Sign in as           mira   with the password   {_PASSWORD}\n"
        f"  The blog itself:     http://127.0.0.1:{given.port}/blog/dark-meadow/\n"
        f"  The outside world:   http://127.0.0.1:{given.standins_port}/control\n"
        f"  Mail that was sent:  http://127.0.0.1:{given.standins_port}/mail\n\n"
        "  Ctrl+C stops all of it.\n",
        flush=True,
    )


def _watch(group: Group, database: Database) -> None:
    """Start again whatever ends by itself, until the person ends the demo."""
    looked_at_database = time.monotonic()
    while True:
        time.sleep(0.5)
        for name, log in group.restart_ended():
            say(f"The {name} process had ended and was started again; its log is {log}")
        if time.monotonic() - looked_at_database > _LOOK_AT_DATABASE:
            _restart_database(database)
            looked_at_database = time.monotonic()


def _restart_database(database: Database) -> None:
    if database.running():
        return
    try:
        database.start()
    except GiveUpError as error:
        say(f"PostgreSQL has ended and does not start again yet. {error}")
    else:
        say("PostgreSQL had ended and was started again")
