"""The command line ``./glyptarch``: ``demo``, ``test``, ``check``, ``serve`` and others."""

import argparse
import os
import sys

from glyptarch_launcher.demo import demo, stop
from glyptarch_launcher.paths import VAR
from glyptarch_launcher.release import release
from glyptarch_launcher.say import GiveUpError, fail
from glyptarch_launcher.serve import PARTS, manage, prepare, serve
from glyptarch_launcher.verify import check, pass_on, test

__all__: list[str] = []


_OF_MANAGE = frozenset({"backup", "restore", "manage"})


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./glyptarch", description="Sets Glyptarch up and runs it.")
    commands = parser.add_subparsers(dest="command", required=True)
    start = commands.add_parser("demo", help="set up all that is missing and start everything with demo data")
    start.add_argument("--fresh", action="store_true", help="start over with an empty database")
    start.add_argument("--port", type=int, default=8700, help="port of the web server (8700)")
    start.add_argument("--standins-port", type=int, default=8790, help="port of the stand-ins (8790)")
    start.add_argument("--mail-port", type=int, default=8791, help="port of the mail stand-in (8791)")
    start.add_argument("--database-port", type=int, default=54329, help="port of PostgreSQL (54329)")
    start.set_defaults(do=demo)
    tests = commands.add_parser("test", help="set up all that is missing and run every test")
    tests.add_argument("labels", nargs="*", help="only these, for example tests.core, or web for the front end's")
    tests.add_argument(
        "--changed", metavar="COMMIT", nargs="?", const="HEAD", help="what a change since COMMIT touches"
    )
    tests.add_argument("--shuffle", action="store_true", help="in a random order, whose seed is printed")
    tests.add_argument("--seed", type=int, metavar="N", help="in the order of an earlier --shuffle")
    tests.add_argument("--processes", type=int, metavar="N", help="so many at once (one for each core)")
    tests.set_defaults(do=test)
    for name, text in (
        ("backup", "write database and media into one file"),
        ("restore", "bring a backup back into an empty database"),
        ("manage", "run a command of manage.py: migrate, first_owner, …"),
        ("proof", "prove a campaign document on a feed"),
        ("benchmark", "measure, against a baseline"),
        ("faults", "kill processes in the middle of each kind of long work, and see that nothing is lost"),
        ("mutants", "break the server line by line, and see that tests fail"),
    ):
        commands.add_parser(name, help=text, add_help=False).set_defaults(do=None)
    serving = commands.add_parser("serve", help="run Glyptarch on a server of its own; docs/running.md says how")
    serving.add_argument("part", nargs="?", choices=PARTS, help="one part alone: for systemd or containers")
    serving.add_argument("--host", default="127.0.0.1", help="address that the web server listens on (127.0.0.1)")
    serving.add_argument("--port", type=int, default=8700, help="port of the web server (8700)")
    serving.set_defaults(do=serve)
    preparing = commands.add_parser("prepare", help="install packages and build the front end, for an image")
    preparing.set_defaults(do=lambda _: prepare())
    releasing = commands.add_parser("release", help="write an archive for servers, with the front end built")
    releasing.add_argument("file", nargs="?", help="the archive (var/release/glyptarch-VERSION.tar.gz)")
    releasing.set_defaults(do=release)
    commands.add_parser("check", help="run linters and type checkers").set_defaults(do=check)
    commands.add_parser("stop", help="stop a demo that runs").set_defaults(do=lambda _: stop())
    return parser


def _keep_compiled_modules() -> None:
    """Let child processes keep compiled modules outside the source folders.

    Each loads some 2,000 modules. Where the environment forbids keeping them (PYTHONDONTWRITEBYTECODE), compiling takes
    most of every start.
    """
    os.environ.pop("PYTHONDONTWRITEBYTECODE", None)
    os.environ.setdefault("PYTHONPYCACHEPREFIX", str(VAR / "pycache"))


def _main() -> int:
    _keep_compiled_modules()
    options, words = _parser().parse_known_args()
    try:
        if options.command in _OF_MANAGE:
            return manage(words if options.command == "manage" else [options.command, *words])
        if options.do is None:
            return pass_on(options.command, words)
        if words:
            _parser().error(f"unrecognized arguments: {' '.join(words)}")
        return int(options.do(options))
    except GiveUpError as error:
        return fail(error)
    except KeyboardInterrupt:
        return 130


sys.exit(_main())
