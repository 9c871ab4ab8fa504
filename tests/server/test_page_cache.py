"""Finished pages are kept as long as they are right, and made once."""

import asyncio
import gzip
from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any
from unittest import IsolatedAsyncioTestCase

import brotli
import psycopg
from django.core.asgi import get_asgi_application
from django.test import Client, TransactionTestCase
from glyptarch_server.blogs.models import Blog, Byline, Category, Tag
from glyptarch_server.comments.actions import leave_comment, move_comment
from glyptarch_server.comments.lifecycle import CommentState
from glyptarch_server.comments.models import Comment
from glyptarch_server.common.blog_changes import CHANNEL, BlogChanges, connection_parameters
from glyptarch_server.common.page_cache import BLOG_HEADER, ENDS_HEADER, GOODS_HEADER, POST_HEADER, PageCache
from glyptarch_server.items.models import Item
from glyptarch_server.media.models import Picture, PictureCopy, Recording
from glyptarch_server.media.queries import url_hash
from glyptarch_server.offers.models import Product
from glyptarch_server.posts.actions import move_post
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import AlsoAt, Post
from glyptarch_server.sources.models import Source

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_picture, make_source, make_user, run

BLOG = 7


class Reply:
    """What a reader was answered."""

    def __init__(self) -> None:
        self.status, self.headers, self.body = 0, {}, b""

    async def take(self, message: Any) -> None:  # noqa: ANN401 - an ASGI message
        if message["type"] == "http.response.start":
            self.status = message["status"]
            self.headers = {name.decode().lower(): value.decode() for name, value in message["headers"]}
        else:
            self.body += message["body"]


async def ask(app: Any, path: str = "/blog/meadow/", *, method: str = "GET", query: str = "", **headers: str) -> Reply:  # noqa: ANN401
    scope = {
        "type": "http",
        "method": method,
        "scheme": "http",
        "path": path,
        "query_string": query.encode(),
        "headers": [(b"host", b"127.0.0.1"), *((k.replace("_", "-").encode(), v.encode()) for k, v in headers.items())],
        "client": ("127.0.0.1", 5),
        "server": ("127.0.0.1", 80),
    }
    reply = Reply()

    begun = False

    async def nothing_more() -> Any:  # noqa: ANN401
        nonlocal begun
        if begun:
            await asyncio.Event().wait()
        begun = True
        return {"type": "http.request", "body": b"", "more_body": False}

    await app(scope, nothing_more, reply.take)
    return reply


class Site:
    """An application that counts its pages, and that a test can hold up."""

    def __init__(self) -> None:
        self.made = 0
        self.status = 200
        self.headers: dict[str, str] = {"cache-control": "public, no-cache", BLOG_HEADER: str(BLOG)}
        self.gate = asyncio.Event()
        self.gate.set()
        self.seen: list[dict[bytes, bytes]] = []

    async def __call__(self, scope: Any, _receive: Any, send: Any) -> None:  # noqa: ANN401
        self.made += 1
        number = self.made
        self.seen.append(dict(scope["headers"]))
        await self.gate.wait()
        pairs = [(name.encode(), value.encode()) for name, value in self.headers.items()]
        await send({"type": "http.response.start", "status": self.status, "headers": pairs})
        await send({"type": "http.response.body", "body": f"page {number} ".encode() * 50})


class KeptPages(IsolatedAsyncioTestCase):
    def setUp(self) -> None:
        self.now = 0.0
        self.site, self.changes = Site(), BlogChanges()
        self.read: list[int] = []
        self.cache = PageCache(
            self.site,
            self.changes,
            listen=lambda: None,
            clock=lambda: self.now,
            wall_clock=lambda: self.now,
            room=1_700,
            read=self.counted,
        )
        self.changes.begin_anew()

    def counted(self, post: int) -> None:
        self.read.append(post)

    async def test_each_reader_of_a_post_is_counted_and_no_program(self) -> None:
        self.site.headers[POST_HEADER] = "12"
        reader = {"user_agent": "Mozilla/5.0"}
        etag = (await ask(self.cache, **reader)).headers["etag"]
        await ask(self.cache, **reader)
        await ask(self.cache, if_none_match=etag, **reader)
        self.assertEqual(self.read, [12, 12, 12])
        await ask(self.cache)
        await ask(self.cache, user_agent="a bot")
        await ask(self.cache, sec_purpose="prefetch", **reader)
        await ask(self.cache, method="HEAD", **reader)
        self.assertEqual(self.read, [12, 12, 12])

    async def test_a_post_that_is_not_kept_or_not_there_is_counted_right(self) -> None:
        self.site.headers[POST_HEADER] = "12"
        self.changes.begin_anew(listening=False)
        await ask(self.cache, user_agent="Mozilla/5.0")
        self.assertEqual(self.read, [12])
        self.site.status = 404
        await ask(self.cache, path="/blog/meadow/b/", user_agent="Mozilla/5.0")
        self.assertEqual(self.read, [12])

    async def number(self, **given: Any) -> int:  # noqa: ANN401
        return int((await ask(self.cache, **given)).body.split()[1])

    async def test_a_page_is_made_once(self) -> None:
        self.assertEqual([await self.number(), await self.number()], [1, 1])

    async def test_many_at_once_wait_for_one_page(self) -> None:
        self.site.gate.clear()
        asked = [asyncio.create_task(self.number()) for _ in range(20)]
        await asyncio.sleep(0.01)
        self.site.gate.set()
        self.assertEqual(await asyncio.gather(*asked), [1] * 20)

    async def test_a_reader_who_leaves_does_not_take_the_page_from_the_others(self) -> None:
        self.site.gate.clear()
        first, second = (asyncio.create_task(self.number()) for _ in range(2))
        await asyncio.sleep(0.01)
        first.cancel()
        self.site.gate.set()
        self.assertEqual(await second, 1)

    async def test_a_change_ends_the_pages_of_its_blog_only(self) -> None:
        await self.number()
        self.changes.hear("8 changed")
        self.assertEqual(await self.number(), 1)
        self.changes.hear(f"{BLOG} changed")
        self.assertEqual(await self.number(), 2)

    async def test_a_change_of_a_product_ends_the_pages_that_name_it(self) -> None:
        for goods, number in (("4 5", "5"), ("*", "6")):
            self.site.headers[GOODS_HEADER] = goods
            before = await self.number(path=f"/blog/meadow/{number}/")
            self.changes.hear(f"{BLOG} goods 7" if goods != "*" else "8 goods 5")
            self.assertEqual(await self.number(path=f"/blog/meadow/{number}/"), before)
            self.changes.hear(f"{BLOG} goods {number}")
            self.assertEqual(await self.number(path=f"/blog/meadow/{number}/"), before + 1)

    async def test_a_page_without_products_outlives_their_changes(self) -> None:
        await self.number()
        self.changes.hear(f"{BLOG} goods 7")
        self.assertEqual(await self.number(), 1)

    async def test_a_page_that_a_price_overtook_is_not_kept(self) -> None:
        for place, (goods, changed, kept) in enumerate((("4 5", 5, False), ("4 5", 7, True), ("*", 7, False))):
            self.site.headers[GOODS_HEADER] = goods
            self.site.gate.clear()
            asked = asyncio.create_task(self.number(path=f"/blog/meadow/{place}/"))
            await asyncio.sleep(0.01)
            self.changes.hear(f"{BLOG} goods {changed}")
            self.site.gate.set()
            first = await asked
            self.assertEqual(await self.number(path=f"/blog/meadow/{place}/") == first, kept, (goods, changed))

    async def test_forgotten_changes_of_products_count_as_changes(self) -> None:
        self.site.headers[GOODS_HEADER] = "4"
        self.site.gate.clear()
        asked = asyncio.create_task(self.number())
        await asyncio.sleep(0.01)
        for product in range(4, 10_010):
            self.changes.hear(f"{BLOG} goods {product}")
        self.site.gate.set()
        self.assertEqual([await asked, await self.number()], [1, 2])

    async def test_a_page_that_was_overtaken_by_a_change_is_not_kept(self) -> None:
        self.site.gate.clear()
        asked = asyncio.create_task(self.number())
        await asyncio.sleep(0.01)
        self.changes.hear(f"{BLOG} changed")
        self.site.gate.set()
        self.assertEqual([await asked, await self.number()], [1, 2])

    async def test_a_page_that_a_post_overtook_is_old_at_once(self) -> None:
        self.site.gate.clear()
        asked = asyncio.create_task(self.number())
        await asyncio.sleep(0.01)
        self.changes.hear(f"{BLOG} grown")
        self.site.gate.set()
        self.assertEqual([await asked, await self.number(), await self.number()], [1, 2, 2])

    async def test_a_new_post_is_shown_to_the_next_reader(self) -> None:
        await self.number()
        self.changes.hear(f"{BLOG} grown")
        self.assertEqual(await self.number(), 2)

    async def test_while_another_page_is_made_anew_an_old_one_is_shown_for_half_a_minute(self) -> None:
        for path in ("/blog/meadow/a/", "/blog/meadow/b/"):
            await self.number(path=path)
        self.changes.hear(f"{BLOG} grown")
        self.site.gate.clear()
        first = asyncio.create_task(self.number(path="/blog/meadow/a/"))
        await asyncio.sleep(0.01)
        self.assertEqual(await self.number(path="/blog/meadow/b/"), 2)
        self.now = 31
        second = asyncio.create_task(self.number(path="/blog/meadow/b/"))
        await asyncio.sleep(0.01)
        self.assertFalse(second.done())
        self.site.gate.set()
        self.assertEqual(sorted(await asyncio.gather(first, second)), [3, 4])

    async def test_a_page_ends_with_its_first_price_even_while_others_are_made_anew(self) -> None:
        self.site.headers[ENDS_HEADER] = "100"
        self.assertEqual([await self.number(), await self.number()], [1, 1])
        self.now = 99.9
        self.assertEqual(await self.number(), 1)
        self.changes.hear(f"{BLOG} grown")
        self.site.gate.clear()
        anew = asyncio.create_task(ask(self.cache, "/blog/meadow/other/"))
        await asyncio.sleep(0)
        self.now = 100.0
        last = asyncio.create_task(ask(self.cache))
        await asyncio.sleep(0)
        self.assertFalse(last.done())
        self.site.gate.set()
        await anew
        self.assertNotIn(b"page 1 ", (await last).body)

    async def test_an_error_does_not_bring_back_a_page_that_has_ended(self) -> None:
        self.site.headers[ENDS_HEADER] = "100"
        await self.number()
        self.now, self.site.status = 100.0, 503
        self.assertEqual((await ask(self.cache)).status, 503)

    async def test_an_old_page_is_better_than_an_error_but_a_wrong_one_is_not(self) -> None:
        await self.number()
        self.site.status = 503
        self.changes.hear(f"{BLOG} grown")
        self.assertEqual((await ask(self.cache)).status, 200)
        self.changes.hear(f"{BLOG} changed")
        self.assertEqual((await ask(self.cache)).status, 503)

    async def test_nothing_is_kept_while_changes_are_not_heard(self) -> None:
        await self.number()
        self.changes.begin_anew(listening=False)
        self.assertEqual([await self.number(), await self.number()], [2, 3])
        self.changes.begin_anew()
        self.assertEqual([await self.number(), await self.number()], [4, 4])

    async def test_only_what_is_public_and_found_is_kept(self) -> None:
        whole = dict(self.site.headers)
        for headers, status in (
            ({"cache-control": "private, no-cache", BLOG_HEADER: "7"}, 200),
            ({"cache-control": "public"}, 200),
            ({**whole, BLOG_HEADER: "seven"}, 200),
            ({**whole, "set-cookie": "a=b"}, 200),
            (whole, 404),
        ):
            with self.subTest(headers=headers, status=status):
                self.site.headers, self.site.status = headers, status
                before = self.site.made
                await ask(self.cache)
                await ask(self.cache)
                self.assertEqual(self.site.made, before + 2)

    async def test_a_cookie_goes_to_one_reader_only(self) -> None:
        self.site.headers = {"set-cookie": "token=1"}
        self.site.gate.clear()
        asked = [asyncio.create_task(self.number()) for _ in range(3)]
        await asyncio.sleep(0.01)
        self.site.gate.set()
        self.assertEqual(sorted(await asyncio.gather(*asked)), [1, 2, 3])

    async def test_people_of_the_desk_and_other_requests_go_by(self) -> None:
        await self.number()
        for given in (
            {"cookie": "a=1; sessionid=x"},
            {"cookie": "basket=x"},
            {"authorization": "Bearer x"},
            {"query": "said"},
            {"query": "page=1&x=2"},
            {"method": "POST"},
            {"path": "/api/blogs"},
            {"path": "/blog/" + "a" * 300 + "/"},
        ):
            with self.subTest(given=given):
                before = self.site.made
                await ask(self.cache, **given)
                self.assertEqual(self.site.made, before + 1)

    async def test_pages_of_hosts_schemes_and_numbers_are_kept_apart(self) -> None:
        given: list[dict[str, str]] = [{}, {"host": "a.example"}, {"x_forwarded_proto": "https"}, {"query": "page=2"}]
        self.assertEqual([await self.number(**each) for each in given], [1, 2, 3, 4])
        self.assertEqual([await self.number(**each) for each in given], [1, 2, 3, 4])

    async def test_the_page_is_made_whole_whatever_its_first_reader_has(self) -> None:
        await ask(self.cache, if_none_match="*", accept_encoding="br", cookie="csrftoken=1", range="bytes=0-1")
        self.assertEqual(set(self.site.seen[0]), {b"host"})

    async def test_a_reader_who_has_the_page_is_not_sent_it(self) -> None:
        etag = (await ask(self.cache)).headers["etag"]
        for known in (etag, f'"x", {etag}', etag.removeprefix("W/"), "*"):
            with self.subTest(known=known):
                reply = await ask(self.cache, if_none_match=known)
                self.assertEqual((reply.status, reply.body, reply.headers["etag"]), (304, b"", etag))
                self.assertEqual(reply.headers["cache-control"], "public, no-cache")
        self.assertEqual((await ask(self.cache, if_none_match='"x"')).status, 200)

    async def test_a_page_is_sent_in_the_best_encoding_that_the_reader_takes(self) -> None:
        plain = (await ask(self.cache)).body
        for accepts, name, opened in (
            ("gzip, deflate, br", "br", brotli.decompress),
            ("gzip;q=0.5, br;q=0", "gzip", gzip.decompress),
            ("identity", None, bytes),
        ):
            with self.subTest(accepts=accepts):
                reply = await ask(self.cache, accept_encoding=accepts)
                self.assertEqual((reply.headers.get("content-encoding"), opened(reply.body)), (name, plain))
                self.assertEqual(reply.headers["content-length"], str(len(reply.body)))
                self.assertEqual(reply.headers["vary"], "accept-encoding")

    async def test_the_head_of_a_page_is_that_of_the_page(self) -> None:
        whole = await ask(self.cache)
        head = await ask(self.cache, method="HEAD")
        self.assertEqual((head.status, head.body, self.site.made), (200, b"", 1))
        self.assertEqual(head.headers["etag"], whole.headers["etag"])

    async def test_the_page_that_nobody_has_asked_for_longest_makes_room(self) -> None:
        numbers = [await self.number(path=f"/blog/meadow/{path}/") for path in "abcdaea"]
        self.assertEqual(numbers, [1, 2, 3, 4, 1, 5, 1])
        # There is room for four of these pages.
        self.assertEqual(await self.number(path="/blog/meadow/b/"), 6)

    async def test_pages_let_other_work_in_between(self) -> None:
        await self.number()
        self.site.gate.clear()
        other = asyncio.create_task(ask(self.cache, "/api/blogs"))
        await asyncio.sleep(0)
        rounds = 0
        pages = asyncio.gather(*(ask(self.cache) for _ in range(30)))
        while not pages.done():
            rounds += 1
            await asyncio.sleep(0)
        self.assertGreater(rounds, 30)
        self.site.gate.set()
        await other


class Numbers(IsolatedAsyncioTestCase):
    async def test_a_connection_that_breaks_is_made_again_and_all_is_forgotten(self) -> None:
        changes, tries = BlogChanges(), 0
        told = asyncio.Event()
        changes.call(lambda _change: told.set())

        def nowhere() -> dict[str, Any]:
            nonlocal tries
            tries += 1
            return {"host": "127.0.0.1", "port": "1", "connect_timeout": "1"}

        with self.assertLogs("glyptarch.front", "WARNING"):
            changes.listen(nowhere)
            changes.listen(nowhere)
            await told.wait()
        self.assertEqual((tries, changes.number, changes.version_of(BLOG)), (1, None, None))
        self.assertTrue(changes.changed_since(BLOG, 10**9))

    def test_too_many_blogs_and_odd_messages_do_no_harm(self) -> None:
        changes = BlogChanges()
        changes.begin_anew()
        changes.hear("x changed")
        changes.hear("")
        before = changes.number
        for number in range(10_002):
            changes.hear(f"{number} changed")
        assert before is not None
        self.assertTrue(changes.changed_since(3, before))


class EveryChange(TransactionTestCase):
    """Whatever changes, the kept page equals one made anew."""

    def setUp(self) -> None:
        self.blog = make_blog()
        source = make_source(self.blog)
        fill(source, range(4))
        run(make_campaign(self.blog, place={"category": "Sky", "tags": ["night"], "byline": "Desk", "comments": True}))
        self.post, self.other = Post.objects.order_by("pk")[:2]
        Post.objects.filter(pk=self.post.pk).update(
            lead_url="https://pictures.example/a.png", copies_pictures=True, copies_recordings_mb=5
        )
        Item.objects.filter(pk=self.post.item_id).update(
            media=[{"kind": "sound", "url": "https://sounds.example/a.mp3", "alt": ""}]
        )
        self.copy = PictureCopy.objects.create(
            blog=self.blog, url=(url := "https://pictures.example/a.png"), url_hash=url_hash(url), state="waiting",
            asked_at=NOW,
        )  # fmt: skip
        self.recording = Recording.objects.create(
            blog=self.blog, url=(url := "https://sounds.example/a.mp3"), url_hash=url_hash(url), state="waiting",
            most_bytes=5, asked_at=NOW,
        )  # fmt: skip
        self.picture = make_picture(self.blog, "b" * 64)
        common = {"blog": self.blog, "shop": "club", "link": "http://shop.example/", "currency": "EUR", "made_at": NOW}
        # Pages go by the real clock, and so do prices.
        self.good, self.better = (
            Product.objects.create(
                key=f"club/{name}", number=name, title=f"Ring {name}", price=9, read_at=datetime.now(UTC), **common
            )
            for name in "ab"
        )
        Product.objects.update(source=source)
        places = [f'<div data-offer="{block}" data-products="club/a"></div>' for block in ("price", "features")]
        place = f"<p>A ring.</p>{''.join(places)}"
        Post.objects.filter(pk=self.other.pk).update(body=place)
        leave_comment(self.post, name="Ida", text="We saw it.", now=NOW)
        self.paths = ["", "?page=1", "section/sky/", "tag/night/", "feed.xml", "atom.xml", "feed.json"]
        self.paths += [
            "archive/",
            f"archive/{NOW:%Y/%-m}/",
            "sources/",
            "tags/",
            "goods/",
            "sitemap.xml",
            "sitemap-1.xml",
        ]
        self.paths += [f"{post.slug}/" for post in (self.post, self.other)]

    def changes(self) -> dict[str, Callable[[], Any]]:
        post, rows = self.post, Post.objects.filter(pk=self.post.pk)
        comment = Comment.objects.get()
        return {
            "a title": lambda: rows.update(title="Another title"),
            "a text": lambda: rows.update(body="<p>Another text</p>"),
            "a date": lambda: rows.update(date=NOW),
            "a pin": lambda: rows.update(pinned=True),
            "a comment shown": lambda: move_comment(comment, CommentState.SHOWN, now=NOW),
            "a comment removed": lambda: move_comment(comment, CommentState.REMOVED, now=NOW),
            "a tag more": lambda: post.tags.add(Tag.objects.create(blog=self.blog, name="Moon", key="m", slug="moon")),
            "a tag less": lambda: post.tags.through.objects.filter(post=post, tag__slug="moon").delete(),
            "a tag's name": lambda: Tag.objects.update(name="Dusk"),
            "a category's name": lambda: Category.objects.update(name="Heaven"),
            "a category more": lambda: post.categories.add(
                Category.objects.create(blog=self.blog, name="Comets", key="c", slug="comets")
            ),
            "a category less": lambda: post.categories.through.objects.filter(category__slug="comets").delete(),
            "a byline's name": lambda: Byline.objects.update(name="Ada"),
            "the source's title": lambda: Source.objects.update(title="Another club"),
            "the source's address": lambda: Source.objects.update(url="https://moved.example/feed.xml"),
            "the blog's look": lambda: Blog.objects.update(appearance={"front": "journal"}),
            "the blog's time zone": lambda: Blog.objects.update(time_zone="Pacific/Kiritimati"),
            "a hub": lambda: Blog.objects.update(hub="https://hub.example/"),
            "full texts in feeds": lambda: Blog.objects.update(full_feeds=True),
            "the same story elsewhere": lambda: AlsoAt.objects.create(post=post, item_id=self.other.item_id),
            "the item's link": lambda: Item.objects.filter(pk=self.other.item_id).update(link="https://else.example/"),
            "no longer elsewhere": lambda: AlsoAt.objects.all().delete(),
            "a picture copied": lambda: PictureCopy.objects.update(state="kept", picture=self.picture),
            "a picture's words": lambda: Picture.objects.update(credit="Ada"),
            "a picture no more": lambda: PictureCopy.objects.update(state="failed", picture=None),
            "a sound copied": lambda: Recording.objects.update(state="kept", file="aa/a.mp3"),
            "a sound no more": lambda: Recording.objects.all().delete(),
            "the blog's title": lambda: Blog.objects.update(title="Another blog"),
            "a post taken off": lambda: move_post(Post.objects.get(pk=self.other.pk), PostState.HELD, now=NOW),
            "a post put out": lambda: move_post(Post.objects.get(pk=self.other.pk), PostState.PUBLISHED, now=NOW),
            "a price": lambda: Product.objects.filter(pk=self.good.pk).update(price=8),
            "a list price": lambda: Product.objects.filter(pk=self.good.pk).update(list_price=10),
            "a stock": lambda: Product.objects.filter(pk=self.good.pk).update(availability="in_stock"),
            "a partner link": lambda: Blog.objects.update(
                offers={"partners": [{"host": "shop.example", "parameters": {"tag": "m"}}]}
            ),
            "a disclosure": lambda: Blog.objects.update(
                offers={"partners": [{"host": "shop.example"}], "disclosure": "We earn by it."}
            ),
            "features of goods": lambda: Product.objects.filter(pk=self.good.pk).update(
                details={"features": ["Light"]}
            ),
            "goods sold out": lambda: Product.objects.filter(pk=self.good.pk).update(availability="out_of_stock"),
            "silence about goods": lambda: Post.objects.filter(pk=self.other.pk).update(quiet_goods=True),
            "what a source allows": lambda: Source.objects.update(right="excerpt"),
            "a successor": lambda: Product.objects.filter(pk=self.good.pk).update(successor=self.better),
            "no successor": lambda: Product.objects.filter(pk=self.good.pk).update(successor=None),
            "a price held": lambda: Product.objects.filter(pk=self.good.pk).update(held={"price": "90"}),
            "a product removed": lambda: Product.objects.filter(pk=self.good.pk).delete(),
            "a private post": lambda: rows.update(visibility="private"),
            "a post removed": lambda: Post.objects.filter(pk=self.other.pk).delete(),
            "the blog removed": lambda: Blog.objects.update(removed_at=NOW),
        }

    def test_the_kept_page_is_the_page_made_anew(self) -> None:
        changes = BlogChanges()
        cache = PageCache(get_asgi_application(), changes, listen=lambda: None)
        fresh = get_asgi_application()
        unseen = []
        with psycopg.connect(**connection_parameters(), autocommit=True) as told:
            told.execute(f"LISTEN {CHANNEL}")
            changes.begin_anew()
            pages = asyncio.run(self.all_pages(cache))
            for name, change in self.changes().items():
                change()
                for message in told.notifies(timeout=0.2, stop_after=1):
                    changes.hear(message.payload)
                for message in told.notifies(timeout=0.02):
                    changes.hear(message.payload)
                now = asyncio.run(self.all_pages(cache))
                with self.subTest(name):
                    self.assertEqual(now, asyncio.run(self.all_pages(fresh)))
                unseen += [name] if now == pages else []
                pages = now
        # A change that no page shows would prove nothing.
        self.assertEqual(unseen, [])

    async def all_pages(self, app: Any) -> list[tuple[int, bytes]]:  # noqa: ANN401
        replies = []
        for address in self.paths:
            path, _, query = address.partition("?")
            reply = await ask(app, f"/blog/meadow/{path}", query=query)
            replies.append((reply.status, reply.body))
        return replies

    def test_what_nobody_sees_tells_nothing(self) -> None:
        with psycopg.connect(**connection_parameters(), autocommit=True) as told:
            told.execute(f"LISTEN {CHANNEL}")
            Post.objects.update(comment_count=5, version=9)
            Item.objects.update(words=3)
            Source.objects.update(paused=True)
            PictureCopy.objects.update(tries=2)
            Product.objects.update(due_at=NOW, read_at=datetime.now(UTC), missing=1)
            leave_comment(self.other, name="Ida", text="Still to be read.", now=NOW)
            self.assertEqual([message.payload for message in told.notifies(timeout=0.1)], [])


class Answers(TransactionTestCase):
    def test_pages_are_for_everybody_and_set_no_cookie(self) -> None:
        blog = make_blog()
        make_source(blog, stories=1)
        run(make_campaign(blog, place={"comments": True}))
        slug = Post.objects.get().slug
        for path in ("", "feed.xml", f"{slug}/"):
            with self.subTest(path=path):
                answer = Client().get(f"/blog/meadow/{path}")
                self.assertEqual(answer.headers["Cache-Control"], "public, no-cache")
                self.assertNotIn("Cookie", answer.headers.get("Vary", ""))
                self.assertEqual(list(answer.cookies), [])

    def test_the_news_of_two_days_change_with_the_clock_and_are_never_kept(self) -> None:
        make_blog()
        answer = Client().get("/blog/meadow/sitemap-news.xml")
        self.assertEqual((answer.status_code, BLOG_HEADER in answer.headers), (200, False))
        self.assertEqual(answer.headers["Cache-Control"], "no-cache")

    def test_a_person_of_the_desk_and_a_closed_post_are_not_for_everybody(self) -> None:
        blog = make_blog(owner=make_user())
        make_source(blog, stories=1)
        run(make_campaign(blog))
        person = Client()
        person.force_login(blog.members.get().user)
        self.assertEqual(person.get("/blog/meadow/").headers["Cache-Control"], "private, no-cache")
        Post.objects.update(visibility="phrase", pass_phrase="dark field")
        address = f"/blog/meadow/{Post.objects.get().slug}/"
        reader = Client()
        self.assertNotIn("public", reader.get(address).headers.get("Cache-Control", ""))
        reader.post(address, {"phrase": "dark field"})
        self.assertNotIn("public", reader.get(address).headers.get("Cache-Control", ""))
