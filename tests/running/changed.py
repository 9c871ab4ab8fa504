"""``python -m tests.running.changed COMMIT``: print the test modules that a change affects.

A test is affected when its module or any module that it imports has changed.
"""

import subprocess
import sys
from collections.abc import Iterable
from pathlib import PurePosixPath

import grimp
from glyptarch_launcher.paths import REPOSITORY

__all__ = ["module_of", "touched"]

_ROOTS = {
    "core/glyptarch_core": "glyptarch_core",
    "server/glyptarch_server": "glyptarch_server",
    "standins/glyptarch_standins": "glyptarch_standins",
    "launcher/glyptarch_launcher": "glyptarch_launcher",
    "tests": "tests",
}


def module_of(path: str) -> str:
    """Return the module of a repository file.

    Empty for files outside our packages.
    """
    for folder, package in _ROOTS.items():
        if path.startswith(f"{folder}/") and path.endswith(".py"):
            parts = PurePosixPath(path).relative_to(folder).with_suffix("").parts
            return ".".join((package, *(part for part in parts if part != "__init__")))
    return ""


def touched(paths: Iterable[str]) -> list[str]:
    """Return the test modules that import any of some files."""
    graph = grimp.build_graph(*_ROOTS.values(), cache_dir=None)
    modules = {module for path in paths if (module := module_of(path)) in graph.modules}
    reached = modules.union(*(graph.find_downstream_modules(module) for module in modules))
    return sorted(module for module in reached if module.rpartition(".")[2].startswith("test_"))


def _changed_since(commit: str) -> list[str]:
    paths: set[str] = set()
    for command in (["diff", "--name-only", commit], ["ls-files", "--others", "--exclude-standard"]):
        listed = subprocess.run(["git", *command], cwd=REPOSITORY, capture_output=True, text=True, check=True)
        paths.update(listed.stdout.splitlines())
    return sorted(paths)


if __name__ == "__main__":
    sys.stdout.write("\n".join(touched(_changed_since(sys.argv[1]))))
