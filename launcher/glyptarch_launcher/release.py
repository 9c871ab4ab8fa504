"""``./glyptarch release``: an archive for servers with the built front end."""

import re
import tarfile
from argparse import Namespace
from pathlib import Path

from glyptarch_launcher.front_end import ensure_web
from glyptarch_launcher.packages import Needs, ensure_venv
from glyptarch_launcher.paths import BUILD_STAMP, REPOSITORY, VAR, WEB
from glyptarch_launcher.say import GiveUpError, run, say

__all__ = ["release"]

_LEFT_OUT = ("tests/", "benchmarks/", "tools/", ".ci/", "docs/screenshots/", "requirements/test.")


def release(options: Namespace) -> int:
    """Build the front end and write the archive."""
    ensure_venv(Needs.RUN)
    ensure_web()
    version = _version()
    path = Path(options.file) if options.file else VAR / "release" / f"glyptarch-{version}.tar.gz"
    path.parent.mkdir(parents=True, exist_ok=True)
    built = [file.relative_to(REPOSITORY) for file in sorted((WEB / "dist").rglob("*")) if file.is_file()]
    built += [file.relative_to(REPOSITORY) for file in (WEB / "manifest.json", BUILD_STAMP)]
    with tarfile.open(path, "w:gz") as archive:
        for name in [*_tracked(), *built]:
            archive.add(REPOSITORY / name, f"glyptarch-{version}/{name}", recursive=False)
    say(f"Wrote {path} ({path.stat().st_size / 1e6:.1f} MB). On the server: tar xf {path.name}, then docs/running.md.")
    return 0


def _tracked() -> list[Path]:
    try:
        listed = run(
            ["git", "ls-files", "-z"], what="Listing the files", remedy="Run it in a checkout.", cwd=REPOSITORY
        )
    except GiveUpError:
        raise GiveUpError("A release is made from a checkout: this folder is none.") from None
    return [Path(name) for name in listed.split("\0") if name and not name.startswith(_LEFT_OUT)]


def _version() -> str:
    """Return the version of the server."""
    file = REPOSITORY / "server" / "glyptarch_server" / "common" / "version.py"
    found = re.search(r'VERSION = "([^"]+)"', file.read_text())
    if found is None:
        raise GiveUpError(f"{file} names no version.")
    return found[1]
