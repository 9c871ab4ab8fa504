"""Fetching against a real server on loopback, with everything that can go wrong switched on."""

import socket

from aiohttp import web
from django.test import SimpleTestCase
from glyptarch_server.adapters.fetch.guard import may_connect
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchLimits, FetchPortal, FetchRequest
from glyptarch_standins.app import World, make_app
from glyptarch_standins.faults import FAULTS

from tests.served import served


class Fetching(SimpleTestCase):
    def setUp(self) -> None:
        self.world = World()
        server = served(make_app(self.world))
        self.address = server.__enter__()
        self.addCleanup(server.__exit__, None, None, None)
        limits = FetchLimits(bytes=1 << 20, seconds=1.5, redirects=3)
        self.portal = FetchPortal(allowed=frozenset({self.address}), limits=limits)
        self.addCleanup(self.portal.close)

    def fetch(self, path: str = "/meadowlark/feed", **more: str) -> Fetched | FetchError:
        return self.portal.fetch_all([FetchRequest(url=f"http://{self.address}{path}", **more)])[0]

    def code(self, fault: str) -> FetchCode:
        self.world.faults["meadowlark"] = fault
        answer = self.fetch()
        assert isinstance(answer, FetchError), answer
        return answer.code

    def test_a_sound_feed_comes_whole_and_decompressed(self) -> None:
        answer = self.fetch()
        assert isinstance(answer, Fetched)
        self.assertTrue(answer.body.startswith(b"<?xml"))
        self.assertTrue(answer.body.endswith(b"</rss>"))

    def test_what_has_not_changed_is_not_sent_again(self) -> None:
        first = self.fetch("/meadowlark/feed?at=2026-11-01T00:00:00Z")
        assert isinstance(first, Fetched)
        second = self.fetch("/meadowlark/feed?at=2026-11-01T00:00:00Z", etag=first.etag)
        assert isinstance(second, Fetched)
        self.assertEqual((second.not_modified, second.body), (True, b""))

    def test_every_fault_is_told_apart(self) -> None:
        wanted = {
            "missing": FetchCode.NOT_FOUND,
            "broken": FetchCode.SERVER_ERROR,
            "slow": FetchCode.TOO_SLOW,
            "cut_off": FetchCode.CUT_OFF,
            "redirect_loop": FetchCode.REDIRECTS,
            "huge": FetchCode.TOO_LARGE,
        }
        self.assertEqual(set(FAULTS) - set(wanted), {"wrong_encoding", "no_feed"})
        for fault, code in wanted.items():
            with self.subTest(fault):
                self.assertEqual(self.code(fault), code)

    def test_one_failure_does_not_stop_the_others(self) -> None:
        urls = [f"http://{self.address}/nowhere/feed", f"http://{self.address}/skywire/feed"]
        answers = self.portal.fetch_all([FetchRequest(url=url) for url in urls])
        self.assertEqual([type(answer) for answer in answers], [FetchError, Fetched])

    def test_addresses_that_are_none_are_refused(self) -> None:
        for url in (
            "ftp://a.example/",
            "file:///etc/passwd",
            "http://",
            "http://a.example:99999/",
            "http://u:p@a.example/",
        ):
            with self.subTest(url):
                answer = self.portal.fetch_all([FetchRequest(url=url)])[0]
                assert isinstance(answer, FetchError)
                self.assertEqual(answer.code, FetchCode.BAD_ADDRESS)

    def test_nothing_listening_is_unreachable(self) -> None:
        with socket.socket() as closed:
            closed.bind(("127.0.0.1", 0))
            port = closed.getsockname()[1]
        portal = FetchPortal(allowed=frozenset({f"127.0.0.1:{port}"}))
        self.addCleanup(portal.close)
        answer = portal.fetch_all([FetchRequest(url=f"http://127.0.0.1:{port}/")])[0]
        assert isinstance(answer, FetchError)
        self.assertEqual(answer.code, FetchCode.UNREACHABLE)


class PrivateAddresses(SimpleTestCase):
    def test_only_public_addresses_may_be_connected_to(self) -> None:
        private = ("127.0.0.1", "10.0.0.1", "192.168.1.1", "172.16.0.1", "169.254.169.254", "0.0.0.0", "100.64.0.1",  # noqa: S104
                   "224.0.0.1", "::1", "fe80::1%eth0", "fc00::1", "::ffff:127.0.0.1", "2002:7f00:1::", "64:ff9b::7f00:1")  # fmt: skip
        for address in private:
            with self.subTest(address):
                self.assertFalse(may_connect(address, 80, frozenset()))
        for address in ("93.184.216.34", "2606:2800:220:1::1"):
            self.assertTrue(may_connect(address, 80, frozenset()))

    def test_the_list_of_exceptions_names_host_and_port(self) -> None:
        allowed = frozenset({"127.0.0.1:8790"})
        self.assertTrue(may_connect("127.0.0.1", 8790, allowed))
        self.assertFalse(may_connect("127.0.0.1", 8791, allowed))

    def test_names_numbers_and_redirects_all_end_at_the_check(self) -> None:
        inner = web.Application()
        inner.add_routes([web.get("/secret", lambda _request: _text("secret"))])
        with served(inner) as private:
            outer = web.Application()
            outer.add_routes([web.get("/go", lambda _request: _redirect(f"http://{private}/secret"))])
            with served(outer) as public:
                portal = FetchPortal(allowed=frozenset({public}))
                self.addCleanup(portal.close)
                port = private.partition(":")[2]
                urls = [f"http://{private}/secret", f"http://localhost:{port}/secret", f"http://{public}/go"]
                answers = portal.fetch_all([FetchRequest(url=url) for url in urls])
        self.assertEqual([getattr(answer, "code", None) for answer in answers], [FetchCode.PRIVATE_ADDRESS] * 3)


async def _text(text: str) -> web.Response:
    return web.Response(text=text)


async def _redirect(url: str) -> web.Response:
    raise web.HTTPFound(url)
