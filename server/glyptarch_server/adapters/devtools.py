"""Chromium over a pipe, by the Chrome DevTools Protocol.

See https://chromedevtools.github.io/devtools-protocol. Messages are JSON texts that end with a NUL byte. Chromium reads
them from descriptor 3 and writes to descriptor 4.
"""

import fcntl
import json
import os
import select
import subprocess
import time
from collections import deque
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from typing import Any, Final

__all__ = ["Chromium", "DevToolsError", "launch"]

_Message = dict[str, Any]
_READ, _WRITE = 3, 4
_CHUNK = 1 << 16
_SECONDS_TO_ANSWER: Final = 30.0


class DevToolsError(Exception):
    """Chromium refused a command, ended, or did not answer in time."""


@contextmanager
def launch(program: str, arguments: Sequence[str]) -> Iterator["Chromium"]:
    """Start Chromium, and end it with the block. Takes descriptors 3 and 4 of this process."""
    to_chromium, from_chromium = os.pipe(), os.pipe()
    # The pipe's own ends may be 3 or 4, so they are moved first.
    inside = [fcntl.fcntl(end, fcntl.F_DUPFD, 10) for end in (to_chromium[0], from_chromium[1])]
    ours = [fcntl.fcntl(end, fcntl.F_DUPFD_CLOEXEC, 10) for end in (to_chromium[1], from_chromium[0])]
    for end in (*to_chromium, *from_chromium):
        os.close(end)
    for end, number in zip(inside, (_READ, _WRITE), strict=True):
        os.dup2(end, number, inheritable=True)
        os.close(end)
    process = subprocess.Popen(
        [program, "--remote-debugging-pipe", *arguments, "about:blank"],
        pass_fds=(_READ, _WRITE),
        stdin=subprocess.DEVNULL,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    os.close(_READ)
    os.close(_WRITE)
    try:
        yield Chromium(*ours)
    finally:
        process.kill()
        process.wait()
        for end in ours:
            os.close(end)


class Chromium:
    """One connection. Handlers receive events between commands, in order of arrival."""

    def __init__(self, write: int, read: int) -> None:
        self._write, self._read = write, read
        self._buffer = bytearray()
        self._messages: deque[_Message] = deque()
        self._answers: dict[int, _Message] = {}
        self._handlers: dict[str, Callable[[_Message], None]] = {}
        self._number = 0

    def on(self, event: str, handler: Callable[[_Message], None]) -> None:
        """Call a handler with the parameters of each event of a name.

        It may send commands but not wait for answers.
        """
        self._handlers[event] = handler

    def send(self, method: str, session: str = "", **parameters: object) -> int:
        """Send a command without waiting for its answer, and return its number."""
        self._number += 1
        message: _Message = {"id": self._number, "method": method, "params": parameters}
        if session:
            message["sessionId"] = session
        data = memoryview(json.dumps(message).encode() + b"\0")
        try:
            while data:
                data = data[os.write(self._write, data) :]
        except OSError as error:
            raise DevToolsError("Chromium has ended") from error
        return self._number

    def ask(self, method: str, session: str = "", **parameters: object) -> _Message:
        """Send a command and return its result. Raises DevToolsError when Chromium refuses it."""
        number = self.send(method, session, **parameters)
        self.run(lambda: number in self._answers, seconds=_SECONDS_TO_ANSWER)
        answer = self._answers.pop(number, None)
        if answer is None:
            raise DevToolsError(f"{method} was not answered")
        if "error" in answer:
            raise DevToolsError(f"{method}: {answer['error'].get('message')}")
        result: _Message = answer.get("result", {})
        return result

    def run(self, done: Callable[[], bool], *, seconds: float) -> bool:
        """Handle events until ``done()``, and return whether it came true within ``seconds``."""
        until = time.monotonic() + seconds
        while not done():
            while not self._messages:
                left = until - time.monotonic()
                if left <= 0 or not select.select([self._read], [], [], left)[0]:
                    return False
                self._receive()
            self._handle(self._messages.popleft())
        return True

    def _receive(self) -> None:
        chunk = os.read(self._read, _CHUNK)
        if not chunk:
            raise DevToolsError("Chromium has ended")
        self._buffer += chunk
        *whole, rest = self._buffer.split(b"\0")
        self._buffer = bytearray(rest)
        self._messages.extend(json.loads(message) for message in whole)

    def _handle(self, message: _Message) -> None:
        if "id" in message:
            self._answers[message["id"]] = message
        elif (handler := self._handlers.get(message["method"])) is not None:
            handler(message["params"])
