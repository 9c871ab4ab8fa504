"""Pages after their scripts have run, in a Chromium process without network access.

Each request of a page is passed to this process and fetched like everything else: from public addresses only, within
the size limits, and from no other host than the page's own and the allowed ones.
"""

import json
import os
import shutil
import signal
import subprocess
import sys
import threading
import time
from base64 import b64encode
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path
from tempfile import TemporaryDirectory
from urllib.parse import urlsplit

from glyptarch_server.adapters.fetch import (
    FetchCode,
    Fetched,
    FetchError,
    FetchPortal,
    FetchRequest,
    may_share_secrets,
)

__all__ = ["RenderLimits", "Renderer", "chromium_at"]

_NAMES = ("chromium", "chromium-browser")
_WATCHED_EVERY = 0.2
_SECONDS_TO_CLOSE = 3
_PAGE = os.sysconf("SC_PAGE_SIZE")


def chromium_at(setting: str) -> str:
    """Return the path of Chromium, as set or as installed.

    Empty where there is none.
    """
    if setting:
        return setting if Path(setting).exists() else ""
    return next((path for name in _NAMES if (path := shutil.which(name))), "")


@dataclass(frozen=True, slots=True, kw_only=True)
class RenderLimits:
    """Limits for one page: seconds, memory, requests, and bytes of all answers."""

    seconds: float = 20.0
    memory: int = 1500 << 20
    requests: int = 80
    bytes: int = 20 << 20


class Renderer:
    """Reads pages in Chromium, one at a time. Safe to share between threads."""

    def __init__(self, chromium: str, *, limits: RenderLimits | None = None) -> None:
        self._chromium = chromium
        self._limits = limits or RenderLimits()
        self._turn = threading.Lock()

    def render(self, request: FetchRequest, fetcher: FetchPortal) -> Fetched | FetchError:
        """Return a page after its scripts have run, as HTML.

        ``request.hosts`` are further allowed hosts.
        """
        if not self._chromium:
            return FetchError(
                FetchCode.REFUSED,
                "No Chromium is installed on the server, so pages cannot be read after their scripts have run. "
                "Install it (apt-get install chromium), or turn that off at the source.",
            )
        with self._turn:
            return _Rendering(self._chromium, self._limits, request, fetcher).run()


class _Rendering:
    """One page in one process."""

    def __init__(self, chromium: str, limits: RenderLimits, request: FetchRequest, fetcher: FetchPortal) -> None:
        self._chromium, self._limits, self._request, self._fetcher = chromium, limits, request, fetcher
        self._own = urlsplit(request.url).netloc.lower()
        self._asked = self._size = 0
        self._fault: FetchError | None = None

    def run(self) -> Fetched | FetchError:
        with TemporaryDirectory(prefix="glyptarch-", ignore_cleanup_errors=True) as folder:
            return self._run(folder)

    def _run(self, folder: str) -> Fetched | FetchError:
        begun = time.monotonic()
        command = [
            sys.executable,
            "-m",
            "glyptarch_server.adapters.rendered_page",
            self._chromium,
            self._request.url,
            folder,
        ]
        # Our environment has secrets, so it is not passed on.
        environment = {"PATH": os.environ.get("PATH", ""), "PYTHONPATH": os.pathsep.join(sys.path), "HOME": folder}
        with (
            subprocess.Popen(
                command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, encoding="utf-8", env=environment
            ) as page,
            _watched(page.pid, self._limits) as why_ended,
        ):
            assert page.stdin is not None and page.stdout is not None  # noqa: S101 - both are pipes
            html, url = "", self._request.url
            with suppress(BrokenPipeError, ValueError):
                for line in page.stdout:
                    said = json.loads(line)
                    if "html" in said:
                        html, url = said["html"], said["url"]
                        break
                    page.stdin.write(json.dumps(self._answer(said["fetch"], first=self._asked == 0)) + "\n")
                    page.stdin.flush()
            with suppress(subprocess.TimeoutExpired):
                page.wait(_SECONDS_TO_CLOSE)
            _end(page.pid)
        if self._fault is not None:
            return self._fault
        if not html:
            return FetchError(FetchCode.TOO_SLOW, why_ended() or f"{self._request.url} could not be shown by Chromium.")
        return Fetched(
            url=url,
            body=html.encode(),
            not_modified=False,
            content_type="text/html; charset=utf-8",
            etag="",
            last_modified="",
            milliseconds=round((time.monotonic() - begun) * 1000),
        )

    def _may_ask(self, url: str) -> bool:
        host = urlsplit(url).netloc.lower()
        allowed_hosts = (self._own, *self._request.hosts)
        return self._asked <= self._limits.requests and any(
            host == allowed or host.endswith(f".{allowed}") for allowed in allowed_hosts
        )

    def _answer(self, url: str, *, first: bool) -> dict[str, object]:
        """Fetch what the page asks for. The page itself decides whether there is anything to show."""
        self._asked += 1
        if not self._may_ask(url) or self._size > self._limits.bytes:
            return {}
        own = may_share_secrets(self._request.url, url)
        request = FetchRequest(
            url=url,
            headers=self._request.headers if own else (),
            any_certificate=self._request.any_certificate and own,
            pause_ms=self._request.pause_ms if first else 0,
        )
        (answer,) = self._fetcher.fetch_all([request])
        if isinstance(answer, FetchError):
            self._fault = answer if first else None
            return {}
        self._size += len(answer.body)
        return {"url": answer.url, "type": answer.content_type, "body": b64encode(answer.body).decode()}


@contextmanager
def _watched(pid: int, limits: RenderLimits) -> Iterator[Callable[[], str]]:
    """Kill a process and its children beyond time or memory.

    Yield a function that names the reason.
    """
    done, why = threading.Event(), [""]

    def watch() -> None:
        until = time.monotonic() + limits.seconds
        while not done.wait(_WATCHED_EVERY):
            if time.monotonic() > until:
                why[0] = f"The page was not done within {limits.seconds:g} seconds."
            elif _memory(_family(pid)) > limits.memory:
                why[0] = f"The page took more than {limits.memory >> 20} MB of memory."
            if why[0]:
                _end(pid)
                return

    watcher = threading.Thread(target=watch, name="rendering", daemon=True)
    watcher.start()
    try:
        yield lambda: why[0]
    finally:
        done.set()
        watcher.join()


def _family(pid: int) -> list[int]:
    """Return a process and its descendants, from ``/proc``."""
    parents: dict[int, list[int]] = {}
    for folder in Path("/proc").glob("[0-9]*"):
        with suppress(OSError, IndexError, ValueError):
            parent = int((folder / "stat").read_text().rpartition(")")[2].split()[1])
            parents.setdefault(parent, []).append(int(folder.name))
    family = [pid]
    for number in family:
        family.extend(parents.get(number, ()))
    return family


def _memory(pids: Sequence[int]) -> int:
    """Return the private memory of processes in bytes, without shared pages."""
    held = 0
    for pid in pids:
        with suppress(OSError, IndexError, ValueError):
            _, resident, shared, *_ = Path(f"/proc/{pid}/statm").read_text().split()
            held += (int(resident) - int(shared)) * _PAGE
    return held


def _end(pid: int) -> None:
    for number in reversed(_family(pid)):
        with suppress(ProcessLookupError):
            os.kill(number, signal.SIGKILL)
