"""At most two connections to a host, counted over all processes."""

import asyncio
import threading
import time
from collections.abc import Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from datetime import timedelta
from itertools import pairwise
from unittest.mock import patch

from aiohttp import web
from django.db import OperationalError, connection, transaction
from django.db.models import F
from django.db.models.functions import Now
from django.test import SimpleTestCase, TestCase, TransactionTestCase, override_settings
from glyptarch_server import wiring
from glyptarch_server.adapters.fetch import Fetched, FetchPortal, FetchRequest
from glyptarch_server.adapters.fetch.host_turns import EndedTurn, HostStore, HostTurns
from glyptarch_server.throttle import hosts
from glyptarch_server.throttle.hosts import SharedHosts, remove_unused_turns
from glyptarch_server.throttle.models import HostTurn

from tests.processes import until
from tests.served import served


def let_pass(**time_: float) -> None:
    """Let so much time pass for all turns."""
    HostTurn.objects.update(ends_at=F("ends_at") - timedelta(**time_))


class Turns(TestCase):
    def setUp(self) -> None:
        # Fetches of other tests store their turns outside of a test's transaction.
        HostTurn.objects.all().delete()
        self.here, self.there = SharedHosts(), SharedHosts()
        for store in (self.here, self.there):
            self.enterContext(patch.object(store, "rest"))

    def take(self, store: SharedHosts, host: str = "a.example", pause: float = 0.0) -> str:
        return store.exchange([], {host: pause}).get(host, "")

    def test_a_host_has_two_turns_for_all_processes(self) -> None:
        taken = [self.take(self.here), self.take(self.there)]
        self.assertEqual(len(set(taken) - {""}), 2)
        self.assertEqual((self.take(self.here), self.take(self.there)), ("", ""))
        self.assertNotEqual(self.take(self.there, "b.example"), "")

    def test_a_turn_given_back_is_free_at_once(self) -> None:
        key, _ = self.take(self.here), self.take(self.here)
        self.assertEqual(self.there.exchange([], {"a.example": 0.0}), {})
        self.assertEqual(self.here.exchange([EndedTurn(key, 0.0)], {"a.example": 0.0}), {"a.example": key})

    def test_only_its_holder_gives_a_turn_back(self) -> None:
        key, _ = self.take(self.here), self.take(self.here)
        self.there.exchange([EndedTurn(key, 0.0)], {})
        self.assertEqual(self.take(self.there), "")

    def test_a_pause_holds_for_other_processes(self) -> None:
        key = self.take(self.here, pause=5.0)
        self.assertEqual(self.take(self.there, pause=5.0), "", "a host with a pause has one turn")
        self.here.exchange([EndedTurn(key, 3.0)], {})
        let_pass(seconds=2)
        self.assertEqual(self.take(self.there, pause=5.0), "")
        let_pass(seconds=2)
        self.assertNotEqual(self.take(self.there, pause=5.0), "")

    def test_the_turn_of_a_dead_process_ends_after_half_a_minute(self) -> None:
        for _ in range(2):
            self.take(self.here)
        let_pass(seconds=29)
        self.assertEqual(self.take(self.there), "")
        let_pass(seconds=2)
        self.assertNotEqual(self.take(self.there), "")

    def test_a_renewed_turn_lasts(self) -> None:
        keys = [self.take(self.here) for _ in range(2)]
        let_pass(seconds=20)
        self.here.renew(keys)
        let_pass(seconds=20)
        self.assertEqual(self.take(self.there), "")

    def test_a_turn_that_another_process_took_over_is_not_renewed(self) -> None:
        key = self.take(self.here, pause=1.0)
        let_pass(seconds=31)
        self.assertEqual(self.take(self.there, pause=1.0), key)
        self.here.renew([key])
        self.here.exchange([EndedTurn(key, 0.0)], {})
        self.assertEqual(self.take(self.here, pause=1.0), "")

    def test_hostile_names_of_hosts_are_taken(self) -> None:
        for host in ("a\0b", "\udcff", "x" * 5000):
            self.assertNotEqual(self.take(self.here, host), "")

    def test_many_hosts_take_two_statements(self) -> None:
        wanted = {f"{number}.example": 0.0 for number in range(100)}
        keys = self.here.exchange([], wanted)
        ended = [EndedTurn(key, 0.0) for key in keys.values()]
        with self.assertNumQueries(2):
            self.assertEqual(self.here.exchange(ended, wanted), keys)

    def test_turns_that_nobody_asks_for_are_removed(self) -> None:
        self.take(self.here)
        let_pass(minutes=59)
        self.assertEqual(remove_unused_turns(), 0)
        let_pass(minutes=2)
        self.assertEqual(remove_unused_turns(), 1)


class RestingStore:
    """A store that rests until it is woken."""

    def __init__(self) -> None:
        self.rests, self.wake = threading.Event(), threading.Event()

    def exchange(self, _ended: Sequence[EndedTurn], wanted: Mapping[str, float]) -> Mapping[str, str]:
        return {host: host for host in wanted}

    def renew(self, keys: Sequence[str]) -> None:
        """Do nothing."""

    def rest(self) -> None:
        self.rests.set()
        self.wake.wait(10)


class Resting(SimpleTestCase):
    def test_a_turn_wanted_while_the_store_rests_is_taken(self) -> None:
        async def take_twice() -> bool:
            store = RestingStore()
            turns = HostTurns(store)
            async with turns.turn("a.example", 0.0):
                pass
            await asyncio.to_thread(store.rests.wait, 10)
            async with asyncio.timeout(10), asyncio.TaskGroup() as group:
                second = group.create_task(self.taken(turns))
                await asyncio.sleep(0)
                store.wake.set()
            await turns.close()
            return second.result()

        self.assertTrue(asyncio.run(take_twice()))

    def test_a_turn_granted_to_a_fetch_that_is_being_cancelled_is_freed(self) -> None:
        async def cancel_with_the_answer() -> tuple[set[str], bool]:
            store = RestingStore()
            store.wake.set()
            turns = HostTurns(store)
            answer = turns._answer
            fetch = asyncio.create_task(self.taken(turns))
            with patch.object(turns, "_answer", lambda wish, reply: (answer(wish, reply), fetch.cancel())):
                await asyncio.wait([fetch])
                await asyncio.to_thread(store.rests.wait, 10)
            held = set(turns._held)
            await turns.close()
            return held, fetch.cancelled()

        self.assertEqual(asyncio.run(cancel_with_the_answer()), (set(), True))

    async def taken(self, turns: HostTurns) -> bool:
        async with turns.turn("b.example", 0.0) as granted:
            return granted


class Site:
    """A site that counts how many requests it answers at once."""

    def __init__(self, seconds: float) -> None:
        self.seconds = seconds
        self.present = self.most = 0
        self.begun: list[float] = []
        self.app = web.Application()
        self.app.add_routes([web.get("/{page}", self.answer)])

    async def answer(self, _request: web.Request) -> web.Response:
        self.begun.append(time.monotonic())
        self.present += 1
        self.most = max(self.most, self.present)
        await asyncio.sleep(self.seconds)
        self.present -= 1
        return web.Response(text="fine")


def _somebody_waits_for_a_lock() -> bool:
    with connection.cursor() as cursor:
        cursor.execute("SELECT count(*) FROM pg_locks WHERE NOT granted AND pid <> pg_backend_pid()")
        return cursor.fetchone()[0] > 0


class Processes(TransactionTestCase):
    def setUp(self) -> None:
        HostTurn.objects.all().delete()

    def portal(self, address: str, store: HostStore | None = None) -> FetchPortal:
        """Return the fetcher of another process."""
        portal = FetchPortal(allowed=frozenset({address}), hosts=store or SharedHosts())
        self.addCleanup(portal.close)
        return portal

    def read(self, site: Site, pages: int, *, portals: int, pause_ms: int = 0) -> None:
        """Let several processes read a site at once, and check that each got every page."""
        with served(site.app) as address, ThreadPoolExecutor(portals) as pool:
            requests = [FetchRequest(url=f"http://{address}/{page}", pause_ms=pause_ms) for page in range(pages)]
            reading = [pool.submit(self.portal(address).fetch_all, requests) for _ in range(portals)]
            for answers in reading:
                self.assertEqual({type(answer) for answer in answers.result()}, {Fetched})

    def test_several_processes_have_two_connections_to_a_host(self) -> None:
        site = Site(0.02)
        self.read(site, 10, portals=4)
        self.assertEqual((len(site.begun), site.most), (40, 2))
        self.assertTrue(until(lambda: not HostTurn.objects.filter(ends_at__gt=Now()).exists(), seconds=10))

    def test_two_processes_that_ask_at_once_do_not_get_the_same_turn(self) -> None:
        here, there = SharedHosts(), SharedHosts()

        def take() -> Mapping[str, str]:
            try:
                return there.exchange([], {"a.example": 5.0})
            finally:
                there.rest()

        with ThreadPoolExecutor(1) as pool:
            with transaction.atomic():
                self.assertIn("a.example", here.exchange([], {"a.example": 5.0}))
                second = pool.submit(take)
                self.assertTrue(until(_somebody_waits_for_a_lock, seconds=10))
            self.assertEqual(second.result(10), {})

    def test_several_processes_keep_the_pause_of_a_host(self) -> None:
        site = Site(0.0)
        self.read(site, 2, portals=2, pause_ms=400)
        waited = [later - earlier for earlier, later in pairwise(site.begun)]
        self.assertEqual(len(waited), 3)
        self.assertGreater(min(waited), 0.1)

    def test_without_the_database_a_process_counts_for_itself(self) -> None:
        site, store = Site(0.02), SharedHosts()
        with (
            served(site.app) as address,
            patch.object(store, "exchange", side_effect=OperationalError("gone")),
            self.assertLogs("glyptarch.fetch", "WARNING"),
        ):
            answers = self.portal(address, store).fetch_all(
                [FetchRequest(url=f"http://{address}/{n}") for n in range(6)]
            )
        self.assertEqual({type(answer) for answer in answers}, {Fetched})
        self.assertLessEqual(site.most, 2)

    def test_a_connection_that_the_database_ended_is_opened_again(self) -> None:
        store = SharedHosts()
        self.addCleanup(store.rest)
        store.exchange([], {"a.example": 0.0})
        with (
            patch.object(hosts, "_TAKE", "SELECT pg_terminate_backend(pg_backend_pid())"),
            self.assertRaises(OperationalError),
        ):
            store.exchange([], {"b.example": 0.0})
        self.assertIn("b.example", store.exchange([], {"b.example": 0.0}))

    def test_a_turn_taken_for_a_fetch_that_was_given_up_is_given_back(self) -> None:
        site = Site(5)
        with served(site.app) as address:
            portal = self.portal(address)
            answers = portal.fetch_each([FetchRequest(url=f"http://{address}/{page}") for page in range(2)])
            waiting = threading.Thread(target=lambda: next(answers, None), daemon=True)
            waiting.start()
            deadline = time.monotonic() + 10
            while site.present < 2 and time.monotonic() < deadline:
                time.sleep(0.01)
            portal.close()
            self.assertFalse(HostTurn.objects.filter(ends_at__gt=Now()).exists())

    def test_the_server_shares_its_turns(self) -> None:
        site = Site(0.0)
        with served(site.app) as address, override_settings(GLYPTARCH_FETCH_ALLOW=frozenset({address})):
            wiring.fetcher.cache_clear()
            self.addCleanup(wiring.fetcher.cache_clear)
            with closing(wiring.fetcher()) as portal:
                portal.fetch_all([FetchRequest(url=f"http://{address}/page")])
        self.assertEqual(HostTurn.objects.count(), 1)
