"""One page in Chromium: ``python -m glyptarch_server.adapters.rendered_page CHROMIUM ADDRESS``.

Chromium has no network. For each address that the page asks for, a line of JSON ``{"fetch": address}`` is
written, and one is read: what the address gave, or nothing. The last line holds the page.
"""

import json
import os
import sys
from base64 import b64decode
from contextlib import suppress
from urllib.parse import urldefrag

from playwright.sync_api import Error, Route, sync_playwright

__all__ = ["main"]

_SECONDS_TO_LOAD = 12
_SECONDS_OF_QUIET = 4
_NOTHING = ("image", "media", "font", "websocket", "eventsource", "manifest", "ping")
# A proxy where nobody listens: whatever does not come through the route below fails, loopback included.
_ARGUMENTS = (
    "--proxy-server=http://127.0.0.1:9",
    "--proxy-bypass-list=<-loopback>",
    "--host-resolver-rules=MAP * ~NOTFOUND",
    "--force-webrtc-ip-handling-policy=disable_non_proxied_udp",
    "--js-flags=--max-old-space-size=512",
    "--disable-gpu",
    "--disable-quic",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--renderer-process-limit=1",
)


def _say(what: dict[str, str]) -> None:
    sys.stdout.write(json.dumps(what) + "\n")
    sys.stdout.flush()


def _ask(address: str) -> dict[str, str]:
    _say({"fetch": address})
    given: dict[str, str] = json.loads(sys.stdin.readline() or "{}")
    return given


class _Answers:
    """Gives the page what it asks for. Where the page itself was redirected to, it is to be opened anew."""

    def __init__(self) -> None:
        self._moved: dict[str, dict[str, str]] = {}

    @property
    def moved_to(self) -> str:
        """Give the address that the page was redirected to."""
        return next(iter(self._moved), "")

    def give(self, route: Route) -> None:
        address = urldefrag(route.request.url).url
        if route.request.method != "GET" or route.request.resource_type in _NOTHING:
            route.abort()
            return
        given = self._moved.pop(address, None) or _ask(address)
        if not given:
            route.abort()
        elif given["url"] != address and route.request.is_navigation_request():
            self._moved = {given["url"]: given}
            route.abort()
        else:
            # What the page's own scripts ask of other allowed hosts they may read (CORS).
            headers = {"Content-Type": given["type"], "Access-Control-Allow-Origin": "*"}
            route.fulfill(status=200, headers=headers, body=b64decode(given["body"]))


def main(chromium: str, address: str) -> None:
    """Show a page, wait until it asks for nothing more, and write what it has become."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path=chromium, args=list(_ARGUMENTS), chromium_sandbox=os.geteuid() != 0
        )
        context = browser.new_context(service_workers="block", accept_downloads=False, user_agent="Glyptarch")
        answers = _Answers()
        context.route("**/*", answers.give)
        page = context.new_page()
        with suppress(Error):
            page.goto(address, wait_until="domcontentloaded", timeout=_SECONDS_TO_LOAD * 1000)
        with suppress(Error):
            if answers.moved_to:
                # In the first one the error still shows itself, and would break in.
                page = context.new_page()
                page.goto(answers.moved_to, wait_until="domcontentloaded", timeout=_SECONDS_TO_LOAD * 1000)
            page.wait_for_load_state("networkidle", timeout=_SECONDS_OF_QUIET * 1000)
        shown = page.url if page.url.startswith(("http://", "https://")) else address
        html = page.content() if page.url.startswith(("http://", "https://")) else ""
        _say({"html": html, "url": shown})
        browser.close()


if __name__ == "__main__":
    main(*sys.argv[1:])
