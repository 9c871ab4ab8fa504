"""The real servers with a few days of demo data, and a person at the browser."""

import os
import sys
from pathlib import Path

from django.core.management import call_command
from django.test import TransactionTestCase, override_settings
from glyptarch_launcher.paths import REPOSITORY
from glyptarch_launcher.processes import free_port, wait_for
from playwright.sync_api import Page, expect

from tests.processes import MANAGE, server_group

__all__ = ["LiveCase"]

AXE = REPOSITORY / "web" / "node_modules" / "axe-core" / "axe.min.js"
PASSWORD = "a long password"  # noqa: S105 - of a user that exists for the length of the test


class LiveCase(TransactionTestCase):
    """Stand-ins, web server and worker, each a process of its own on the test database."""

    available_apps = None

    def setUp(self) -> None:
        # Playwright's own event loop runs in this thread; the database is used from it all the same.
        before = os.environ.get("DJANGO_ALLOW_ASYNC_UNSAFE")
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"
        self.addCleanup(lambda: os.environ.pop("DJANGO_ALLOW_ASYNC_UNSAFE") if before is None else None)
        self.outside, self.port = free_port(), free_port()
        allowed = f"127.0.0.1:{self.outside}"
        group = server_group(GLYPTARCH_FETCH_ALLOW=allowed, GLYPTARCH_RUN_BATCH="5")
        self.addCleanup(group.stop)
        world = group.start("test-standins", [sys.executable, "-m", "glyptarch_standins", "--port", str(self.outside)])
        web = group.start("test-web", [sys.executable, "-m", "uvicorn", "--host", "127.0.0.1", "--port", str(self.port),
                                       "--lifespan", "off", "glyptarch_server.config.asgi:application"])  # fmt: skip
        group.start("test-worker", [*MANAGE, "worker"])
        wait_for(f"http://{allowed}/control", *world)
        with override_settings(
            GLYPTARCH_FETCH_ALLOW=frozenset({allowed}),
            PASSWORD_HASHERS=["django.contrib.auth.hashers.PBKDF2PasswordHasher"],
        ):
            call_command("load_demo", standins=f"http://{allowed}", password=PASSWORD, days=4)
        wait_for(f"http://127.0.0.1:{self.port}/api/session", *web)

    def signs_in(self, page: Page) -> None:
        page.goto(f"http://127.0.0.1:{self.port}/")
        page.get_by_label("Name").fill("mira")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("list", name="Campaigns").get_by_role("listitem")).to_have_count(6)

    def is_accessible(self, page: Page) -> None:
        """Look for what WCAG 2.2 AA forbids, with axe."""
        page.evaluate(Path(AXE).read_text())
        options = {"runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"], "iframes": False}
        found = page.evaluate("options => axe.run(document, options)", options)["violations"]
        faults = [f"{one['id']}: {node['html'][:160]}" for one in found for node in one["nodes"][:4]]
        self.assertFalse(faults, page.url)
