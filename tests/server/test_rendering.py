"""Pages after their scripts have run, in a real Chromium without a network."""

import os
import time

from aiohttp import web
from django.test import SimpleTestCase
from glyptarch_server.adapters.rendering import Renderer, RenderLimits, _family, chromium_at
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchPortal, FetchRequest
from glyptarch_standins.app import World, make_app

from tests.served import served

PAGE = """<html><head><title>Empty</title><script src="/part.js"></script></head><body><div id="app"></div><script>
fetch("/data.json").then((a) => a.json()).then((d) => { document.getElementById("app").textContent = d.words; });
fetch("http://OTHER/other").then(() => { document.body.dataset.other = "read"; }, () => { document.body.dataset.other = "refused"; });
fetch("/sent", { method: "POST", body: "x" }).catch(() => { document.body.dataset.sent = "refused"; });
new WebSocket("ws://OTHER/socket").onerror = () => { document.body.dataset.socket = "refused"; };
new Image().src = "http://OTHER/picture.png";
</script></body></html>"""


class Pages:
    def __init__(self) -> None:
        self.asked: list[str] = []
        self.other = ""

    async def answer(self, request: web.Request) -> web.StreamResponse:
        self.asked.append(f"{request.method} {request.path}")
        pages = {
            "/": PAGE.replace("OTHER", self.other),
            "/loop": "<script>while (true) {}</script>",
            "/memory": "<script>a=[];setInterval(()=>{for(i=0;i<20;i++){b=new Uint8Array(4e7);b.fill(1);a.push(b)}},50)</script>",
            "/leads": "<script>location = 'http://OTHER/'</script>".replace("OTHER", self.other),
            "/part.js": "document.title = 'Full'",
        }
        if request.path == "/moved":
            raise web.HTTPFound("/")
        if request.path == "/data.json":
            return web.json_response({"words": "Drawn by script"})
        if request.path not in pages:
            raise web.HTTPNotFound
        kind = "text/javascript" if request.path.endswith("js") else "text/html"
        return web.Response(text=pages[request.path], content_type=kind)

    def app(self) -> web.Application:
        app = web.Application()
        app.router.add_route("*", "/{path:.*}", self.answer)
        return app


def rendered(
    path: str, *, hosts: bool = False, limits: RenderLimits | None = None
) -> tuple[Fetched | FetchError, Pages, Pages]:
    world, elsewhere = Pages(), Pages()
    with served(elsewhere.app()) as other, served(world.app()) as host:
        world.other = other
        # Both hosts may be fetched, so only the renderer stops the page from asking the other.
        portal = FetchPortal(allowed=frozenset({host, other}))
        try:
            request = FetchRequest(url=f"http://{host}{path}", hosts=(other,) if hosts else ())
            return Renderer(chromium_at(""), limits=limits).render(request, portal), world, elsewhere
        finally:
            portal.close()


class Rendering(SimpleTestCase):
    def shown(self, path: str, *, hosts: bool = False) -> tuple[str, Pages, Pages]:
        answer, world, elsewhere = rendered(path, hosts=hosts)
        assert isinstance(answer, Fetched), answer
        return answer.body.decode(), world, elsewhere

    def test_a_page_is_given_as_its_scripts_have_made_it(self) -> None:
        html, world, elsewhere = self.shown("/")
        self.assertIn("Drawn by script", html)
        self.assertIn("<title>Full</title>", html)
        self.assertEqual(sorted(world.asked), ["GET /", "GET /data.json", "GET /part.js"])
        for name in ("other", "sent", "socket"):
            self.assertIn(f'data-{name}="refused"', html)
        self.assertEqual(elsewhere.asked, [])

    def test_a_host_that_was_allowed_is_asked(self) -> None:
        html, _, elsewhere = self.shown("/", hosts=True)
        self.assertEqual(elsewhere.asked, ["GET /other"])
        self.assertIn('data-sent="refused"', html)

    def test_a_redirect_leads_to_the_page(self) -> None:
        html, world, _ = self.shown("/moved")
        self.assertIn("Drawn by script", html)
        self.assertEqual(world.asked.count("GET /"), 1)

    def test_a_page_cannot_lead_elsewhere(self) -> None:
        _, _, elsewhere = rendered("/leads")
        self.assertEqual(elsewhere.asked, [])

    def test_what_cannot_be_fetched_is_told_as_for_any_page(self) -> None:
        answer, *_ = rendered("/none")
        assert isinstance(answer, FetchError)
        self.assertEqual(answer.code, FetchCode.NOT_FOUND)

    def test_scripts_without_end_and_without_measure_are_ended(self) -> None:
        begun = time.monotonic()
        slow, *_ = rendered("/loop", limits=RenderLimits(seconds=4))
        large, *_ = rendered("/memory", limits=RenderLimits(memory=700 << 20))
        assert isinstance(slow, FetchError)
        assert isinstance(large, FetchError)
        self.assertIn("within 4 seconds", str(slow))
        self.assertIn("700 MB of memory", str(large))
        self.assertLess(time.monotonic() - begun, 60)
        self.assertEqual(_family(os.getpid())[1:], [one for one in _family(os.getpid())[1:] if not _is_chromium(one)])

    def test_without_chromium_it_says_what_to_do(self) -> None:
        answer = Renderer("").render(FetchRequest(url="https://ridge.example/"), None)  # type: ignore[arg-type]
        self.assertIn("apt-get install chromium", str(answer))
        self.assertEqual(chromium_at("/none/of/this"), "")

    def test_the_section_that_scripts_draw_is_read(self) -> None:
        with served(make_app(World())) as host:
            portal = FetchPortal(allowed=frozenset({host}))
            answer = Renderer(chromium_at("")).render(FetchRequest(url=f"http://{host}/bulletin/tonight/"), portal)
            portal.close()
        assert isinstance(answer, Fetched), answer
        self.assertEqual(answer.body.count(b'<article class="note">'), 8)


def _is_chromium(pid: int) -> bool:
    try:
        with open(f"/proc/{pid}/cmdline") as file:  # noqa: PTH123
            return "chromium" in file.read()
    except OSError:
        return False
