"""The built front end: made here with Node.js, or shipped with a release."""

import shutil

from glyptarch_launcher.packages import ensure_npm, one_at_a_time
from glyptarch_launcher.paths import BUILD_STAMP, VENV, WEB
from glyptarch_launcher.say import run, say
from glyptarch_launcher.stamps import is_current, stamp_of

__all__ = ["build_web", "ensure_web"]


def _stamp() -> str:
    return stamp_of([WEB / name for name in ("src", "index.html", "package-lock.json", "vite.config.ts")])


def _is_built() -> bool:
    return is_current(BUILD_STAMP, _stamp()) and (WEB / "dist" / "index.html").is_file()


def ensure_web() -> None:
    """Build the front end when its sources have changed.

    A release includes it and needs no Node.js.
    """
    if not _is_built():
        ensure_npm()
        build_web()


def build_web() -> None:
    """Build the front end when its sources have changed.

    The packages of npm and Python are installed already.
    """
    with one_at_a_time("web"):
        if not _is_built():
            _build()


def _build() -> None:
    dist = WEB / "dist"
    say("Building the front end")
    run(["npm", "run", "build"], what="Building the front end", remedy="The lines above name the file.", cwd=WEB)
    run(
        [VENV / "bin" / "servestatic", "--compress", "--no-zstd", "--quiet", "--clear", WEB / "built", dist],
        what="Compressing the front end",
        remedy="Remove web/dist and try again.",
    )
    # Everything in dist is public, and the manifest is for the server alone.
    shutil.move(dist / ".vite" / "manifest.json", WEB / "manifest.json")
    shutil.rmtree(dist / ".vite")
    BUILD_STAMP.write_text(_stamp())
