"""A rush: requests wait in separate lanes, and the rest are told when to ask again."""

import asyncio
from contextlib import suppress
from http import HTTPStatus

from django.http import HttpRequest, HttpResponse
from django.test import RequestFactory, SimpleTestCase, override_settings
from glyptarch_server.common import turns
from glyptarch_server.common.turns import BusyError, Lane, in_turn


class Lanes(SimpleTestCase):
    async def test_as_many_go_in_as_there_are_turns_and_the_first_that_waits_is_next(self) -> None:
        lane, inside, order, gate = Lane(2, waiting=5), 0, [], asyncio.Event()
        most = 0

        async def work(number: int) -> None:
            nonlocal inside, most
            async with lane.turn():
                inside += 1
                most = max(most, inside)
                order.append(number)
                await gate.wait()
                inside -= 1

        tasks = [asyncio.create_task(work(number)) for number in range(5)]
        await asyncio.sleep(0.01)
        self.assertEqual(order, [0, 1])
        gate.set()
        await asyncio.gather(*tasks)
        self.assertEqual((order, most), ([0, 1, 2, 3, 4], 2))

    async def test_who_comes_when_too_many_wait_is_refused_and_nobody_else_is(self) -> None:
        lane, gate, done = Lane(1, waiting=1), asyncio.Event(), []

        async def work(number: int) -> None:
            async with lane.turn():
                await gate.wait()
                done.append(number)

        tasks = [asyncio.create_task(work(number)) for number in range(2)]
        await asyncio.sleep(0)
        with self.assertRaises(BusyError):
            await work(3)
        gate.set()
        await asyncio.gather(*tasks)
        self.assertEqual(done, [0, 1])
        await work(4)
        self.assertEqual(done, [0, 1, 4])

    async def test_who_has_waited_too_long_is_refused(self) -> None:
        lane = Lane(1, waiting=5, longest_wait=0.01)
        async with lane.turn():
            with self.assertRaises(BusyError):
                async with lane.turn():
                    self.fail("two had the only turn")

    async def test_who_goes_away_while_waiting_leaves_no_turn_taken(self) -> None:
        lane = Lane(1, waiting=1)

        async def wait() -> None:
            async with lane.turn():
                pass

        async with lane.turn():
            gone = asyncio.create_task(wait())
            await asyncio.sleep(0)
            gone.cancel()
            with suppress(asyncio.CancelledError):
                await gone
            second = asyncio.create_task(wait())
            await asyncio.sleep(0)
        await second


@override_settings(GLYPTARCH_REQUESTS_AT_ONCE=2)
class Requests(SimpleTestCase):
    """The middleware, with pages that take until the gate opens."""

    def setUp(self) -> None:
        self.gate = asyncio.Event()

        async def page(_request: HttpRequest) -> HttpResponse:
            await self.gate.wait()
            return HttpResponse("here")

        self.answer = in_turn(page)

    async def ask(self, path: str) -> HttpResponse:
        return await self.answer(RequestFactory().get(path))  # type: ignore[misc, return-value]

    async def rush(self, path: str) -> list[asyncio.Task[HttpResponse]]:
        """Ask until one more would be refused."""
        waiting = turns._WAITING_PER_TURN if path.startswith("/api/") else turns._WAITING_READERS
        tasks = [asyncio.create_task(self.ask(path)) for _ in range(1 + waiting)]
        await asyncio.sleep(0)
        return tasks

    async def test_a_rush_of_readers_is_told_when_to_ask_again(self) -> None:
        tasks = await self.rush("/blog/meadow/")
        refused = await self.ask("/blog/meadow/a-post/")
        self.assertEqual((refused.status_code, refused["Retry-After"]), (HTTPStatus.SERVICE_UNAVAILABLE, "3"))
        self.assertEqual(refused["Cache-Control"], "no-store")
        self.gate.set()
        self.assertEqual([task.status_code for task in await asyncio.gather(*tasks)], [200] * len(tasks))

    async def test_the_desk_works_on_while_readers_rush_in_and_the_other_way_round(self) -> None:
        for path, other in (("/blog/meadow/", "/api/blogs"), ("/api/blogs", "/media/a.webp")):
            with self.subTest(path):
                self.gate.clear()
                tasks = await self.rush(path)
                asked = asyncio.create_task(self.ask(other))
                await asyncio.sleep(0)
                self.gate.set()
                self.assertEqual((await asked).status_code, HTTPStatus.OK)
                await asyncio.gather(*tasks)

    async def test_the_api_refuses_in_its_own_form_and_probes_never_wait(self) -> None:
        tasks = await self.rush("/api/blogs")
        refused = await self.ask("/api/blogs")
        self.assertEqual(refused["Content-Type"], "application/problem+json")
        self.assertIn(b"Try again in a few seconds", refused.content)
        self.gate.set()
        self.assertEqual((await self.ask("/health/live")).status_code, HTTPStatus.OK)
        await asyncio.gather(*tasks)
