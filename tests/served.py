"""An aiohttp application served on a free port of loopback, for the length of a block."""

import asyncio
import ssl
import threading
from collections.abc import Iterator
from contextlib import contextmanager

from aiohttp import web
from glyptarch_launcher.ports import free_port

__all__ = ["served"]


@contextmanager
def served(app: web.Application, tls: ssl.SSLContext | None = None) -> Iterator[str]:
    """Serve an application.

    Yield ``host:port``.
    """
    port = free_port()
    loop = asyncio.new_event_loop()
    ready = threading.Event()
    runner = web.AppRunner(app, shutdown_timeout=0.1)

    async def begin() -> None:
        await runner.setup()
        await web.TCPSite(runner, "127.0.0.1", port, ssl_context=tls).start()
        ready.set()

    def serve() -> None:
        asyncio.set_event_loop(loop)
        loop.run_until_complete(begin())
        loop.run_forever()

    async def end() -> None:
        await runner.cleanup()
        left = [task for task in asyncio.all_tasks() if task is not asyncio.current_task()]
        for task in left:
            task.cancel()
        await asyncio.gather(*left, return_exceptions=True)

    thread = threading.Thread(target=serve, daemon=True)
    thread.start()
    ready.wait(5)
    try:
        yield f"127.0.0.1:{port}"
    finally:
        asyncio.run_coroutine_threadsafe(end(), loop).result(10)
        loop.call_soon_threadsafe(loop.stop)
        thread.join(5)
        loop.close()
