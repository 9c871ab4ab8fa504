"""Debian's Chromium through Playwright, allowed to reach loopback only."""

import time
from collections.abc import Iterator
from contextlib import contextmanager
from urllib.parse import urlsplit

from django.db import connections
from playwright.sync_api import ConsoleMessage, Page, Request, expect, sync_playwright
from playwright.sync_api import Error as PlaywrightError

__all__ = ["BROWSER", "FLAGS", "Traffic", "moves_to", "opened"]

BROWSER = "/usr/bin/chromium-headless-shell"
"""Chromium without its own windows, which costs half as much."""
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    # Without Playwright's routing, which would switch off the browser's own cache.
    "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1",
]


_PATIENCE = 20_000
"""How long a step may take on a slow machine, in milliseconds."""

expect.set_options(timeout=_PATIENCE)


@contextmanager
def opened() -> Iterator[tuple[Page, list[str]]]:
    """Yield a page, and a list that collects its errors and outside requests."""
    troubles: list[str] = []

    def look(request: Request) -> None:
        address = urlsplit(request.url)
        if address.scheme.startswith(("http", "ws")) and address.hostname != "127.0.0.1":
            troubles.append(f"request to {request.url}")

    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=BROWSER, args=FLAGS)
        # Movements are drawn by this machine's processor.
        context = browser.new_context(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
        page = context.new_page()
        page.on("request", look)
        page.on("pageerror", lambda error: troubles.append(str(error)))
        page.on("console", lambda said: troubles.append(_worded(said)) if said.type == "error" else None)
        page.set_default_timeout(_PATIENCE)
        try:
            yield page, troubles
        finally:
            # Playwright's block has its own context, and Django has a connection per context.
            connections.close_all()
            browser.close()


_MOVE = """address => {
    history.pushState(null, "", address);
    dispatchEvent(new PopStateEvent("popstate", {state: null}));
}"""


def moves_to(page: Page, address: str) -> None:
    """Show an address, within the desk as its links do: without loading the desk anew.

    A screen that is shown already begins anew.
    """
    here, there = urlsplit(page.url), urlsplit(address)
    if not (here.path.startswith("/desk/") and there.path.startswith("/desk/")):
        page.goto(address)
        return
    if here.path == there.path:
        page.evaluate(_MOVE, f"/desk/{there.path.split('/')[2]}/account")
    page.evaluate(_MOVE, address)


_QUIET = """patience => new Promise(done => {
    const end = Date.now() + patience;
    let quiet = 0;
    const look = () => {
        quiet = document.querySelector('[role="status"][aria-busy="true"]') ? 0 : quiet + 1;
        if (quiet < 3 && Date.now() < end) setTimeout(look, 25);
        else requestIdleCallback(() => done(true), {timeout: 500});
    };
    look();
})"""
"""Waits in the page, which costs less than asking it often. A page that has got an answer asks within 50 ms for what
follows from it."""


class Traffic:
    """What a page has asked for and not been answered yet."""

    _GIVEN_UP_S = 6.0
    """A request of a page that was left may never be told to have failed."""

    def __init__(self, page: Page) -> None:
        self._page = page
        self._open: set[Request] = set()
        page.on("request", self._begun)
        page.on("requestfinished", self._ended)
        page.on("requestfailed", self._ended)

    def _begun(self, request: Request) -> None:
        if request.is_navigation_request():
            self._open.clear()
        self._open.add(request)

    def _ended(self, request: Request) -> None:
        self._open.discard(request)

    def settle(self) -> None:
        """Wait until the page waits for no answer and shows the last one."""
        deadline = time.monotonic() + self._GIVEN_UP_S
        while time.monotonic() < deadline and not (self._is_quiet() and not self._open):
            pass
        self._open.clear()

    def _is_quiet(self) -> bool:
        try:
            return bool(self._page.evaluate(_QUIET, 1000 * self._GIVEN_UP_S / 2))
        except PlaywrightError:
            # The page was left meanwhile.
            self._page.wait_for_load_state()
            return False


def _worded(said: ConsoleMessage) -> str:
    """Return a console message with the address that it is about."""
    return f"{said.text} {said.location.get('url', '')}".rstrip()
