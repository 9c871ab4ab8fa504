"""A PostgreSQL server of our own, on loopback, with its data under ``var/``."""

import hashlib
import os
import secrets
import shutil
import subprocess
import time
from dataclasses import dataclass
from pathlib import Path

from glyptarch_launcher.paths import REPOSITORY, VAR
from glyptarch_launcher.say import GiveUpError, run, say

__all__ = ["Database"]

_ROLE = "glyptarch"


def _binaries() -> Path:
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/postgres"), key=lambda path: int(path.parts[-3]))
    if not found:
        raise GiveUpError("PostgreSQL is not installed.\n  As root: apt-get install postgresql")
    return found[-1].parent


def _as_postgres() -> list[str]:
    # PostgreSQL refuses to run as root.
    return ["runuser", "-u", "postgres", "--"] if os.geteuid() == 0 else []


def _reachable(folder: Path) -> bool:
    if os.geteuid() != 0:
        return True
    return subprocess.run([*_as_postgres(), "test", "-x", str(folder)], check=False).returncode == 0


@dataclass(slots=True)
class Database:
    """A PostgreSQL data folder and its server.

    ``fast`` trades safety for speed, for tests.
    """

    name: str
    port: int
    fast: bool = False

    @property
    def folder(self) -> Path:
        """The data folder: under ``var/``, or where the user postgres can reach it."""
        if _reachable(VAR):
            return VAR / self.name
        key = hashlib.sha256(str(REPOSITORY).encode()).hexdigest()[:10]
        return Path("/var/tmp") / f"glyptarch-{key}" / self.name  # noqa: S108 - owned by us, mode 700

    @property
    def password(self) -> str:
        """The password of the role, made at first use."""
        path = VAR / f"{self.name}-password"
        if not path.exists():
            VAR.mkdir(parents=True, exist_ok=True)
            path.touch(mode=0o600)
            path.write_text(secrets.token_urlsafe(24))
        return path.read_text()

    def environment(self) -> dict[str, str]:
        """Return the environment that a server needs to connect."""
        return {
            "GLYPTARCH_DB_HOST": "127.0.0.1",
            "GLYPTARCH_DB_PORT": str(self.port),
            "GLYPTARCH_DB_NAME": "glyptarch",
            "GLYPTARCH_DB_USER": _ROLE,
            "GLYPTARCH_DB_PASSWORD": self.password,
        }

    def start(self) -> None:
        """Start the server, making the data folder and the database when they do not exist."""
        binaries = _binaries()
        if not (self.folder / "PG_VERSION").exists():
            self._make(binaries)
        self.folder.mkdir(exist_ok=True)
        settings = f"-p {self.port} -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c max_connections=60"
        # JIT compilation takes longer than our short queries.
        settings += " -c default_toast_compression=lz4 -c log_min_messages=warning -c jit=off"
        if self.fast:
            settings += " -c fsync=off -c synchronous_commit=off -c full_page_writes=off -c autovacuum=off"
        run(
            [*_as_postgres(), binaries / "pg_ctl", "-D", self.folder, "-w", "-t", "30", "-o", settings,
             "-l", self.folder / "server.log", "start"],
            what="Starting PostgreSQL",
            remedy=f"Look into {self.folder / 'server.log'}.",
        )  # fmt: skip
        self._ensure_database(binaries)

    def _make(self, binaries: Path) -> None:
        say(f"Making a PostgreSQL data folder in {self.folder}")
        if self.folder.exists():
            shutil.rmtree(self.folder)
        self.folder.mkdir(parents=True)
        secret = self.folder.parent / f".{self.name}-initial"
        secret.write_text(self.password)
        if os.geteuid() == 0:
            shutil.chown(self.folder, "postgres", "postgres")
            shutil.chown(secret, "postgres", "postgres")
        try:
            run(
                [*_as_postgres(), binaries / "initdb", "-D", self.folder, "-U", _ROLE, "-A", "scram-sha-256",
                 f"--pwfile={secret}", "-E", "UTF8", "--locale=C.UTF-8", "--no-instructions"],
                what="Making the data folder",
                remedy=f"Remove {self.folder} and try again.",
            )  # fmt: skip
        finally:
            secret.unlink()

    def _ensure_database(self, binaries: Path) -> None:
        env = {**os.environ, "PGPASSWORD": self.password}
        address = ["-h", "127.0.0.1", "-p", str(self.port), "-U", _ROLE]
        known = run(
            [binaries / "psql", *address, "-d", "postgres", "-Atc", "select datname from pg_database"],
            what="Asking PostgreSQL for its databases",
            remedy="./glyptarch stop, then try again.",
            env=env,
        )
        if "glyptarch" not in known.split():
            run(
                [binaries / "createdb", *address, "glyptarch"],
                what="Making the database",
                remedy="./glyptarch stop, then try again.",
                env=env,
            )

    def running(self) -> bool:
        """Whether the server of this data folder is running."""
        if not (self.folder / "postmaster.pid").exists():
            return False
        status = [*_as_postgres(), str(_binaries() / "pg_ctl"), "-D", str(self.folder), "status"]
        return subprocess.run(status, capture_output=True, check=False).returncode == 0

    def running_port(self) -> int:
        """Return the port of the running server (the fourth line of ``postmaster.pid``)."""
        return int((self.folder / "postmaster.pid").read_text().splitlines()[3])

    def stop(self) -> None:
        """Stop the server, breaking off its connections."""
        if self.running():
            command = [*_as_postgres(), str(_binaries() / "pg_ctl"), "-D", str(self.folder), "-m", "fast", "-w", "stop"]
            subprocess.run(command, capture_output=True, check=False)

    def remove(self) -> None:
        """Stop the server and remove its data."""
        self.stop()
        for _ in range(20):
            shutil.rmtree(self.folder, ignore_errors=True)
            if not self.folder.exists():
                return
            time.sleep(0.1)
