"""``python -m glyptarch_standins --port 8790``: serve the simulated world on loopback."""

import argparse
import asyncio
from collections.abc import AsyncIterator
from functools import partial

from aiohttp import web

from glyptarch_standins.app import World, make_app

__all__: list[str] = []


async def _with_mail(world: World, port: int, _app: web.Application) -> AsyncIterator[None]:
    """Receive mail while the world is served."""
    server = await asyncio.get_running_loop().create_server(world.inbox.server, "127.0.0.1", port)
    yield
    server.close()


def _main() -> None:
    parser = argparse.ArgumentParser(description="Serve the simulated outside world on loopback.")
    parser.add_argument("--port", type=int, default=8790)
    parser.add_argument("--mail-port", type=int, default=0, help="port of the mail server; none for 0")
    parser.add_argument("--seed", type=int, default=7)
    given = parser.parse_args()
    world = World(seed=given.seed)
    app = make_app(world)
    if given.mail_port:
        app.cleanup_ctx.append(partial(_with_mail, world, given.mail_port))
    web.run_app(app, host="127.0.0.1", port=given.port, print=None)


_main()
