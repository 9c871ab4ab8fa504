"""``python -m glyptarch_standins --port 8790``: serve the simulated world on loopback."""

import argparse

from aiohttp import web

from glyptarch_standins.app import World, make_app

__all__: list[str] = []


def _main() -> None:
    parser = argparse.ArgumentParser(description="Serve the simulated outside world on loopback.")
    parser.add_argument("--port", type=int, default=8790)
    parser.add_argument("--seed", type=int, default=7)
    given = parser.parse_args()
    web.run_app(make_app(World(seed=given.seed)), host="127.0.0.1", port=given.port, print=None)


_main()
