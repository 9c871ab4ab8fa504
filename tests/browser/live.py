"""The real servers with a few days of demo data, and a person at the browser."""

import atexit
import os
import sys
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from functools import cache
from typing import Any

from django.core.management import call_command
from django.db import connection
from django.test import SimpleTestCase, override_settings
from glyptarch_launcher.front_end import build_web
from glyptarch_launcher.paths import REPOSITORY
from glyptarch_launcher.ports import free_port
from glyptarch_launcher.processes import wait_for
from glyptarch_server.campaigns.models import Campaign
from playwright.sync_api import Page, expect

from tests.processes import MANAGE, server_group
from tests.running.databases import create, drop, ensure_template, on_database

__all__ = ["LiveCase"]

AXE = REPOSITORY / "web" / "node_modules" / "axe-core" / "axe.min.js"
PASSWORD = "a long password"  # noqa: S105 - of a user that exists for the length of the test
_DAYS = 4


@cache
def _standins_port() -> int:
    """Return the port of the stand-ins, the same for every walk.

    Addresses in the demo's data include it.
    """
    return free_port()


_templates: list[str] = []


def _demo_template(wait_for_standins: Callable[[], object]) -> str:
    """Return the name of a database with the demo's data, loaded once per process.

    The front end is built from what its sources are now.
    """
    if not _templates:
        build_web()
        wait_for_standins()
        _templates.append(_load_demo(f"template_walks_{os.getpid()}"))
    return _templates[0]


def _load_demo(name: str) -> str:
    create(name, ensure_template())
    atexit.register(drop, name)
    address = f"127.0.0.1:{_standins_port()}"
    with (
        on_database(name),
        override_settings(
            GLYPTARCH_FETCH_ALLOW=frozenset({address}),
            PASSWORD_HASHERS=["django.contrib.auth.hashers.PBKDF2PasswordHasher"],
        ),
    ):
        call_command("load_demo", standins=f"http://{address}", password=PASSWORD, days=_DAYS)
        # While walks last, no campaign runs but those that they start.
        Campaign.objects.exclude(next_run_at=None).update(next_run_at=datetime.now(UTC) + timedelta(days=1))
    return name


class LiveCase(SimpleTestCase):
    """Stand-ins, web server and worker as processes on a copy of the demo's data."""

    lane = "browser"
    databases = {"default"}

    def setUp(self) -> None:
        # Playwright's event loop runs in this thread, and Django refuses the database there by default.
        before = os.environ.get("DJANGO_ALLOW_ASYNC_UNSAFE")
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"
        self.addCleanup(lambda: os.environ.pop("DJANGO_ALLOW_ASYNC_UNSAFE") if before is None else None)
        self.outside, self.port = _standins_port(), free_port()
        allowed = f"127.0.0.1:{self.outside}"
        group = server_group(GLYPTARCH_FETCH_ALLOW=allowed, GLYPTARCH_RUN_BATCH="5")
        self.addCleanup(self.use, ensure_template())
        self.addCleanup(group.stop)
        world = group.start("walk-standins", [sys.executable, "-m", "glyptarch_standins", "--port", str(self.outside)])
        self.use(_demo_template(lambda: wait_for(f"http://{allowed}/control", *world, what="the stand-ins")))
        web = group.start(
            "walk-web", [sys.executable, "-m", "glyptarch_server.config.web_server", "--port", str(self.port)]
        )
        group.start("walk-worker", [*MANAGE, "worker"])
        wait_for(f"http://{allowed}/control", *world, what="the stand-ins")
        wait_for(f"http://127.0.0.1:{self.port}/api/session", *web, what="the web server")

    def use(self, template: str) -> None:
        """Put a copy of a template in place of the database of this process."""
        connection.close()
        connection.close_pool()
        create(str(connection.settings_dict["NAME"]), template)

    def signs_in(self, page: Page, name: str = "mira", *, campaigns: int = 6) -> None:
        page.goto(f"http://127.0.0.1:{self.port}/")
        page.get_by_label("Name").fill(name)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("list", name="Campaigns").get_by_role("listitem")).to_have_count(campaigns)

    def is_accessible(self, page: Page, *, colours_alone: bool = False) -> None:
        """Check a page for WCAG 2.2 AA with axe.

        A second theme differs in its colours alone.
        """
        if not page.evaluate("'axe' in window"):
            page.evaluate(AXE.read_text())
        run_only: dict[str, Any] = {"type": "tag", "values": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]}
        if colours_alone:
            run_only = {"type": "rule", "values": ["color-contrast"]}
        options = {"runOnly": run_only, "iframes": False}
        violations = page.evaluate("options => axe.run(document, options)", options)["violations"]
        faults = [f"{rule['id']}: {node['html'][:160]}" for rule in violations for node in rule["nodes"][:4]]
        self.assertFalse(faults, page.url)
