"""The web process.

``python -m glyptarch_server.config.web_server --host 127.0.0.1 --port 8700``
"""

import argparse
import asyncio
import os
from importlib import import_module
from typing import Any

import django
import uvicorn
from uvicorn.protocols.http.h11_impl import H11Protocol

from glyptarch_server.common.process import importing
from glyptarch_server.common.start import check_database

__all__ = ["main"]

_SECONDS_FOR_HEAD = 15.0
_SECONDS_TO_END = 5


class _HeadInTime(H11Protocol):
    """Closes a connection whose next request head is not complete within fifteen seconds.

    uvicorn closes idle connections, but waits forever for a head sent letter by letter.
    """

    _head: asyncio.TimerHandle | None = None

    def connection_made(self, transport: Any) -> None:  # noqa: ANN401 - as the base class has it
        super().connection_made(transport)
        self._arm()

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        if self.cycle is None or self.cycle.response_complete:
            self._arm()
        else:
            self._disarm()

    def connection_lost(self, exc: Exception | None) -> None:
        self._disarm()
        super().connection_lost(exc)

    def _arm(self) -> None:
        if self._head is None:
            self._head = self.loop.call_later(_SECONDS_FOR_HEAD, self._close)

    def _disarm(self) -> None:
        if self._head is not None:
            self._head.cancel()
            self._head = None

    def _close(self) -> None:
        if not self.transport.is_closing():
            self.transport.close()


def main() -> None:
    """Serve until the process is stopped."""
    parser = argparse.ArgumentParser(description="Serve the desk, the blogs and the API.")
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--port", type=int, default=8700)
    options = parser.parse_args()
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "glyptarch_server.config.settings")
    with importing():
        django.setup()
        files = import_module("glyptarch_server.media.files")
    check_database(must_answer=False)
    files.check_folder()
    uvicorn.run(
        "glyptarch_server.config.asgi:application",
        host=options.host,
        port=options.port,
        http=_HeadInTime,
        ws="none",
        lifespan="off",
        access_log=False,
        # Our own settings decide which proxies are trusted (common/client.py).
        proxy_headers=False,
        timeout_graceful_shutdown=_SECONDS_TO_END,
    )


if __name__ == "__main__":
    main()
