"""One page in Chromium, run as a process of its own.

``python -m glyptarch_server.adapters.rendered_page CHROMIUM ADDRESS FOLDER`` Chromium has no network. For each address
that the page asks for, a line of JSON ``{"fetch": address}`` is written, and one line is read: what the address
answered, or nothing. The last line holds the page.
"""

import json
import os
import sys
from contextlib import suppress
from typing import Any
from urllib.parse import urldefrag

from glyptarch_server.adapters.devtools import Chromium, DevToolsError, launch

__all__ = ["main"]

_SECONDS_TO_LOAD = 12
_SECONDS_OF_QUIET = 4
_REFUSED_TYPES = frozenset(
    {
        "Image",
        "Media",
        "Font",
        "TextTrack",
        "Other",
        "WebSocket",
        "EventSource",
        "Manifest",
        "Ping",
        "CSPViolationReport",
    }
)
_ARGUMENTS = (
    "--headless=new",
    # A dead proxy, so that every request not intercepted below fails, loopback included.
    "--proxy-server=http://127.0.0.1:9",
    "--proxy-bypass-list=<-loopback>",
    "--host-resolver-rules=MAP * ~NOTFOUND",
    "--force-webrtc-ip-handling-policy=disable_non_proxied_udp",
    "--js-flags=--max-old-space-size=512",
    # Frames of other hosts stay in this process, where their requests are intercepted too.
    "--disable-site-isolation-trials",
    "--renderer-process-limit=1",
    "--disable-gpu",
    "--disable-quic",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-extensions",
    "--disable-sync",
    "--hide-scrollbars",
    "--mute-audio",
    "--no-default-browser-check",
    "--no-first-run",
)
_REDIRECT = 302


def _write(message: dict[str, str]) -> None:
    sys.stdout.write(json.dumps(message) + "\n")
    sys.stdout.flush()


def _fetch(address: str) -> dict[str, str]:
    _write({"fetch": address})
    answer: dict[str, str] = json.loads(sys.stdin.readline() or "{}")
    return answer


class _Page:
    """A browser tab whose requests are answered by the parent process."""

    def __init__(self, chromium: Chromium) -> None:
        self._chromium = chromium
        self._frame = chromium.ask("Target.createTarget", url="about:blank")["targetId"]
        self._session = chromium.ask("Target.attachToTarget", targetId=self._frame, flatten=True)["sessionId"]
        self._loader = ""
        self._reached: set[str] = set()
        self._redirected: dict[str, dict[str, str]] = {}
        chromium.on("Fetch.requestPaused", self._answer_request)
        chromium.on("Page.lifecycleEvent", self._note_event)
        chromium.on("Page.javascriptDialogOpening", self._close_dialog)
        for method, parameters in (
            ("Page.enable", {}),
            ("Page.setLifecycleEventsEnabled", {"enabled": True}),
            ("Network.enable", {}),
            ("Network.setBypassServiceWorker", {"bypass": True}),
            ("Emulation.setUserAgentOverride", {"userAgent": "Glyptarch"}),
            ("Fetch.enable", {"patterns": [{"urlPattern": "*"}]}),
        ):
            chromium.ask(method, self._session, **parameters)

    def load(self, address: str) -> None:
        """Open an address and wait until its scripts ask for nothing more, within limits."""
        self._loader = ""
        self._reached.clear()
        self._chromium.send("Page.navigate", self._session, url=address)
        if self._chromium.run(lambda: "DOMContentLoaded" in self._reached, seconds=_SECONDS_TO_LOAD):
            self._chromium.run(lambda: "networkIdle" in self._reached, seconds=_SECONDS_OF_QUIET)

    def content(self) -> tuple[str, str]:
        """Return the address that is shown and the document as HTML."""
        root = self._chromium.ask("DOM.getDocument", self._session, depth=0)["root"]
        html = self._chromium.ask("DOM.getOuterHTML", self._session, nodeId=root["nodeId"])["outerHTML"]
        return root["documentURL"], html

    def _note_event(self, event: dict[str, Any]) -> None:
        if event["frameId"] != self._frame:
            return
        if event["name"] == "init":
            # A new document, while events of the previous one may still arrive.
            self._loader = event["loaderId"]
            self._reached.clear()
        elif event["loaderId"] == self._loader:
            self._reached.add(event["name"])

    def _close_dialog(self, _event: dict[str, Any]) -> None:
        self._chromium.send("Page.handleJavaScriptDialog", self._session, accept=False)

    def _answer_request(self, event: dict[str, Any]) -> None:
        request, kind = event["request"], event["resourceType"]
        address = urldefrag(request["url"]).url
        answer: dict[str, str] = {}
        if request["method"] == "GET" and kind not in _REFUSED_TYPES:
            answer = self._redirected.pop(address, {}) or _fetch(address)
        if not answer:
            self._send("Fetch.failRequest", event, errorReason="BlockedByClient")
        elif kind == "Document" and answer["url"] != address:
            self._redirected = {answer["url"]: answer}
            self._fulfill(event, _REDIRECT, {"Location": answer["url"]}, "")
        else:
            # The page's scripts may read answers of other allowed hosts (CORS).
            headers = {"Content-Type": answer["type"], "Access-Control-Allow-Origin": "*"}
            self._fulfill(event, 200, headers, answer["body"])

    def _fulfill(self, event: dict[str, Any], status: int, headers: dict[str, str], body: str) -> None:
        rows = [{"name": name, "value": value} for name, value in headers.items()]
        self._send("Fetch.fulfillRequest", event, responseCode=status, responseHeaders=rows, body=body)

    def _send(self, method: str, event: dict[str, Any], **parameters: object) -> None:
        self._chromium.send(method, self._session, requestId=event["requestId"], **parameters)


def main(chromium: str, address: str, folder: str) -> None:
    """Show a page, wait until it is idle, and write its final HTML."""
    arguments = [*_ARGUMENTS, f"--user-data-dir={folder}"]
    if os.geteuid() == 0:
        # Chromium's sandbox does not start for root.
        arguments.append("--no-sandbox")
    url, html = address, ""
    with suppress(DevToolsError), launch(chromium, arguments) as browser:
        browser.ask("Browser.setDownloadBehavior", behavior="deny")
        page = _Page(browser)
        page.load(address)
        url, html = page.content()
    if not url.startswith(("http://", "https://")):
        url, html = address, ""
    _write({"html": html, "url": url})


if __name__ == "__main__":
    main(*sys.argv[1:])
