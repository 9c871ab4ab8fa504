"""``python -m tools.faults [ROUNDS] [KIND …]``: kill processes in the middle of tasks.

The moments and the victims are random; the seed is printed.
"""

import logging
import os
import random
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Sequence
from contextlib import ExitStack
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, TypeVar
from unittest.mock import patch

import django
from django.core.management import call_command
from django.db import InterfaceError, OperationalError, connection, transaction
from glyptarch_launcher import processes
from glyptarch_launcher.database import Database, _as_postgres, _binaries
from glyptarch_launcher.paths import REPOSITORY, VAR
from glyptarch_launcher.ports import free_port
from glyptarch_launcher.processes import Group

_T = TypeVar("_T")
_ROUNDS = 5
_KILLS = 2
_LONGEST_WAIT_FOR_A_KILL = 2.5
_SECONDS_TO_END = 120.0
_VICTIMS = ("worker", "web", "backends", "database")


def _patiently(ask: Callable[[], _T]) -> _T:
    """Ask the database again until it is there."""
    end = time.monotonic() + _SECONDS_TO_END
    while True:
        try:
            return ask()
        except (OperationalError, InterfaceError):
            connection.close()
            if time.monotonic() > end:
                raise
            time.sleep(0.2)


class _World:
    """The processes of a server on a database of its own, kept running while they are killed."""

    def __init__(self, database: Database, stack: ExitStack) -> None:
        self.database = database
        self.group = Group(dict(os.environ))
        stack.callback(self.group.stop)
        manage: list[str | Path] = [sys.executable, REPOSITORY / "server" / "manage.py"]
        web = ["-m", "glyptarch_server.config.web_server", "--port", str(free_port())]
        self.group.start("faults-worker", [*manage, "worker"])
        self.group.start("faults-web", [sys.executable, *web])
        self._over = threading.Event()
        supervisor = threading.Thread(target=self._supervise, daemon=True)
        supervisor.start()
        stack.callback(supervisor.join, 10)
        stack.callback(self._over.set)

    def _supervise(self) -> None:
        while not self._over.wait(0.2):
            self.group.restart_ended()

    def kill(self, victim: str) -> None:
        """Kill a process, all connections, or the database server, which is started again."""
        if victim == "database":
            command = [*_as_postgres(), str(_binaries() / "pg_ctl"), "-D", str(self.database.folder)]
            subprocess.run([*command, "-m", "immediate", "-w", "stop"], capture_output=True, check=True)
            self.database.start()
        elif victim == "backends":
            others = "pid <> pg_backend_pid() AND backend_type = 'client backend'"

            def end_all() -> None:
                with connection.cursor() as cursor:
                    cursor.execute(f"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE {others}")  # noqa: S608

            _patiently(end_all)
        else:
            member = next(member for member in self.group.members if member.name == f"faults-{victim}")
            member.process.send_signal(signal.SIGKILL)


def main(words: Sequence[str]) -> int:
    """Kill, wait, and look. Return 0 where everything ended, and nothing was lost or doubled."""
    rounds = int(words[0]) if words else _ROUNDS
    # Broken connections are the purpose.
    logging.disable(logging.CRITICAL)
    with ExitStack() as stack:
        # A fast one loses what was committed just before it is killed.
        database = Database(f"faults-postgres-{os.getpid()}", free_port())
        stack.callback(database.remove)
        database.start()
        os.environ.update(database.environment())
        os.environ["GLYPTARCH_RUN_BATCH"] = "10"
        stack.enter_context(patch.multiple(processes, _SETTLED=0.1, _FIRST_PAUSE=0.2))

        from tests.served import served  # noqa: PLC0415 - after the arguments
        from tools.faults.site import application  # noqa: PLC0415

        site = stack.enter_context(served(application()))
        os.environ["GLYPTARCH_FETCH_ALLOW"] = site
        os.environ["GLYPTARCH_VAR"] = str(VAR / "faults")
        (VAR / "faults").mkdir(parents=True, exist_ok=True)
        django.setup()
        call_command("migrate", verbosity=0)
        return _all_kinds(_World(database, stack), f"http://{site}", rounds, words[1:])


def _all_kinds(world: _World, site: str, rounds: int, only: Sequence[str]) -> int:
    from glyptarch_server.blogs.actions import create_blog  # noqa: PLC0415 - Django is set up only now

    from tools.faults.kinds import KINDS, Round  # noqa: PLC0415

    seed = random.randrange(10**6)  # noqa: S311 - no secret
    rng, failed, longest = random.Random(seed), 0, 0.0  # noqa: S311 - no secret
    print(f"seed {seed}")
    blog = create_blog(slug="meadow", title="Meadow", tagline="", language="en", now=datetime.now(UTC))
    for number in range(rounds):
        place = Round(blog=blog, site=site, number=number)
        for kind in KINDS:
            # Each kind needs what the ones before it have made.
            kills = _KILLS if not only or kind.name in only else 0
            task = _patiently(lambda kind=kind, place=place: _begun(kind, place))  # type: ignore[misc]
            said = []
            for _ in range(kills):
                time.sleep(rng.uniform(0, _LONGEST_WAIT_FOR_A_KILL))
                said.append(rng.choice(_VICTIMS))
                world.kill(said[-1])
            state, seconds = _wait_for_end(task)
            faults = [] if state == "done" else [f"it is {state}"]
            if state == "done":
                faults = _patiently(lambda kind=kind, place=place: list(kind.faults(place)))  # type: ignore[misc]
            longest = max(longest, seconds)
            failed += bool(faults)
            victims = ", ".join(said) or "nothing"
            print(f"{number + 1} {kind.name:10} {seconds:5.1f} s after {victims:22} {'; '.join(faults)}")
            sys.stdout.flush()
    print(f"{rounds * len(KINDS)} times, {failed} failed; the longest took {longest:.0f} s after the last kill")
    return 1 if failed else 0


def _begun(kind: Any, place: Any) -> int:  # noqa: ANN401 - their module is imported after Django
    with transaction.atomic():
        return int(kind.begin(place))


def _wait_for_end(number: int) -> tuple[str, float]:
    """Wait for the end of a task.

    Return its state, and the seconds that it took.
    """
    from glyptarch_server.tasks.models import Task  # noqa: PLC0415 - Django is set up only now

    begun = time.monotonic()
    while True:
        state, failure, ended = _patiently(
            lambda: Task.objects.filter(pk=number).values_list("state", "failure", "ended_at").get()
        )
        seconds = time.monotonic() - begun
        if ended is not None or seconds > _SECONDS_TO_END:
            return (f"{state} ({failure})" if failure else state), seconds
        time.sleep(0.1)


sys.exit(main(sys.argv[1:]))
