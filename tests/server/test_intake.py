"""Request bodies are limited before they are stored, and slow connections are closed."""

import asyncio
from collections.abc import Iterable, MutableMapping
from typing import Any
from unittest.mock import patch

from django.test import SimpleTestCase
from glyptarch_server.common import intake
from glyptarch_server.common.intake import Intake, limit_of
from glyptarch_server.config import web_server
from uvicorn import Config
from uvicorn.server import ServerState

MB = 1 << 20


class Requests(SimpleTestCase):
    def answered(
        self, path: str, parts: Iterable[bytes | float], headers: dict[str, str] | None = None
    ) -> tuple[int, int]:
        """Send parts of a body with pauses in seconds.

        Return the status and the bytes that the app read.
        """
        read, sent, waiting = 0, [], iter([*parts, b""])

        async def app(_scope: Any, receive: Any, send: Any) -> None:  # noqa: ANN401
            nonlocal read
            while True:
                message = await receive()
                read += len(message["body"])
                if not message["more_body"]:
                    break
            await send({"type": "http.response.start", "status": 200, "headers": []})

        async def receive() -> MutableMapping[str, Any]:
            part = next(waiting)
            if isinstance(part, float):
                await asyncio.sleep(part)
                part = next(waiting)
            return {"type": "http.request", "body": part, "more_body": part != b""}

        async def send(message: MutableMapping[str, Any]) -> None:
            sent.append(message)

        lines = [(name.lower().encode(), value.encode()) for name, value in (headers or {}).items()]
        asyncio.run(Intake(app)({"type": "http", "path": path, "headers": lines}, receive, send))
        return sent[0]["status"], read

    def test_a_body_that_says_it_is_too_large_is_not_read(self) -> None:
        self.assertEqual(self.answered("/api/session", [b"x"], {"Content-Length": str(250 * MB)}), (413, 0))
        self.assertEqual(self.answered("/api/session", [b"x"], {"Content-Length": "9" * 400}), (413, 0))

    def test_a_body_that_says_nothing_of_its_length_is_read_to_its_limit(self) -> None:
        status, read = self.answered("/api/session", [b"x" * MB] * 250)
        self.assertEqual(status, 413)
        self.assertLess(read, 2 * MB)

    def test_what_a_person_may_send_depends_on_the_address(self) -> None:
        self.assertEqual(limit_of("/api/blogs/b/pictures", shows_who=True), 21 * MB)
        self.assertEqual(limit_of("/api/blogs/b/samples", shows_who=True), 6 * MB)
        self.assertEqual(limit_of("/blog/b/a-post/comments/", shows_who=False), 64 << 10)
        self.assertEqual(limit_of("/websub/key", shows_who=False), 4 * MB)

    def test_a_stranger_may_send_little_anywhere(self) -> None:
        for path in ("/api/blogs/b/pictures", "/api/session", "/desk/", "/"):
            self.assertLessEqual(limit_of(path, shows_who=False), 256 << 10, path)

    def test_a_body_that_comes_too_slowly_is_broken_off(self) -> None:
        with patch.object(intake, "_SECONDS_TO_BEGIN", 0.2):
            self.assertEqual(self.answered("/api/session", [b"x", 5.0, b"x"])[0], 408)
            self.assertEqual(self.answered("/api/session", [b"x", 0.01, b"x"]), (200, 2))


class Heads(SimpleTestCase):
    def closed_after(self, *pieces: bytes) -> bool:
        """Whether the server closes a connection that sends a head in slow pieces."""

        async def app(_scope: Any, _receive: Any, send: Any) -> None:  # noqa: ANN401
            await send({"type": "http.response.start", "status": 204, "headers": []})
            await send({"type": "http.response.body"})

        async def walk() -> bool:
            config, state = Config(app, lifespan="off", log_config=None), ServerState()
            loop = asyncio.get_running_loop()
            server = await loop.create_server(lambda: web_server._HeadInTime(config, state, {}), "127.0.0.1", 0)
            reader, writer = await asyncio.open_connection(*server.sockets[0].getsockname())
            for piece in pieces:
                writer.write(piece)
                await asyncio.sleep(0.1)
            try:
                async with asyncio.timeout(1.5):
                    while await reader.read(1000):
                        pass
            except TimeoutError:
                return False
            finally:
                writer.close()
                server.close()
            return True

        with patch.object(web_server, "_SECONDS_FOR_HEAD", 0.5):
            return asyncio.run(walk())

    def test_a_connection_that_sends_its_head_letter_by_letter_is_closed(self) -> None:
        self.assertTrue(self.closed_after(b"GET / H", b"T", b"T", b"P"))
        self.assertTrue(self.closed_after())

    def test_also_after_a_request_that_was_answered(self) -> None:
        self.assertTrue(self.closed_after(b"GET / HTTP/1.1\r\nHost: a\r\n\r\n", b"GET /", b" "))
