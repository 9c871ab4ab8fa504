"""The API: permissions, inputs, outputs and errors."""

import base64
import json
import re
import zlib
from io import BytesIO
from typing import Any
from unittest.mock import patch

from django.core import signing
from django.db import connection
from django.test import Client, TestCase
from glyptarch_core.pages.document import ReaderDocument
from glyptarch_core.readers.opml import listed_addresses
from glyptarch_server import wiring
from glyptarch_server.accounts.tokens import make_token
from glyptarch_server.blogs.actions import add_member, add_term_table, add_word_list
from glyptarch_server.blogs.models import Blog, Role
from glyptarch_server.comments.models import Comment
from glyptarch_server.config.management.commands.export_schema import SCHEMA, schema_text
from glyptarch_server.editions.models import Edition
from glyptarch_server.feed_lists.actions import bring_in
from glyptarch_server.items.actions import keep_sample
from glyptarch_server.items.models import Sample
from glyptarch_server.media.actions import keep_upload
from glyptarch_server.media.models import Recording
from glyptarch_server.names.actions import add_name
from glyptarch_server.names.queries import NameKind
from glyptarch_server.offers.models import Product
from glyptarch_server.pages.actions import make_reader
from glyptarch_server.pages.models import Snapshot
from glyptarch_server.people.actions import invite
from glyptarch_server.platforms.actions import make_connection
from glyptarch_server.posts.actions import keep_view
from glyptarch_server.posts.changes import Action, begin_change
from glyptarch_server.posts.models import Correction, Post
from glyptarch_server.posts.takedown import take_down_source
from glyptarch_server.replay.models import Replay, ReplayResult
from glyptarch_server.runs.models import Decision, Run
from glyptarch_server.sources.actions import keep_pattern
from glyptarch_server.sources.adding import add_platform_source
from glyptarch_server.sources.models import Source
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.models import Task
from glyptarch_server.wiring import FetchCode, FetchError
from PIL import Image

from tests.server.fixtures import (
    NOW,
    PASSWORD,
    CannedPortal,
    fill,
    make_blog,
    make_campaign,
    make_source,
    make_user,
    run,
)
from tests.server.test_runs import FEED

RULES = {"gather": {"sources": ["club"]}}
OPML = b"<opml version='2.0'><body><outline text='Club' xmlUrl='https://club.example/feed'/></body></opml>"
ARTICLE = b"<h1>A night out</h1>" + b"<p>It was a clear night on the ridge, and many people came to see it.</p>" * 5
STEPPED = {**RULES, "shape": {"steps": [{"id": "tidy", "kind": "tidy"}]}}


API: dict[str, Any] = {"address": "https://api.example/list"}
API_CONNECTION: dict[str, Any] = {
    "name": "API",
    "address": "https://api.example/",
    "fields": {"header": "X-Key", "key": "k"},
}

MACHINE = {"address": "http://127.0.0.1:9/texts"}


class ApiCase(TestCase):
    """A blog with all roles, a source, a campaign, and a run that made three posts.

    Created once per class.
    """

    @classmethod
    def setUpTestData(cls) -> None:
        with patch.object(wiring, "clock", return_value=lambda: NOW):
            cls.owner, cls.editor, cls.stranger = make_user("mira"), make_user("edda"), make_user("sven")
            cls.blog = make_blog("meadow", cls.owner)
            cls.viewer, cls.reviewer = make_user("vera"), make_user("rolf")
            add_member(cls.blog, cls.editor, Role.EDITOR)
            add_member(cls.blog, cls.viewer, Role.VIEWER)
            add_member(cls.blog, cls.reviewer, Role.REVIEWER)
            cls.source = make_source(cls.blog, stories=3)
            cls.campaign = make_campaign(cls.blog)
            add_word_list(cls.blog, "Unused", ["x"], now=NOW)
            add_term_table(cls.blog, "Unused", "scope,telescope", now=NOW)
            cls.first_run = run(cls.campaign)
            cls.post = Post.objects.order_by("pk")[0]
            cls.comment = Comment.objects.create(
                post=cls.post, blog=cls.blog, state="waiting", name="Ida", text="Seen.", made_at=NOW, changed_at=NOW
            )

    def setUp(self) -> None:
        clock = patch.object(wiring, "clock", return_value=lambda: NOW)
        clock.start()
        self.addCleanup(clock.stop)

    def as_(self, user: Any) -> Client:  # noqa: ANN401
        client = Client()
        if user:
            client.force_login(user)
        return client

    def call(self, user: Any, method: str, path: str, body: Any = None) -> Any:  # noqa: ANN401
        return self.as_(user).generic(
            method, f"/api{path}", json.dumps(body) if body is not None else "", "application/json"
        )

    def kept_page(self) -> tuple[int, str]:
        """Create two page readers and a stored page.

        Return its number and a signed address of a picture in it.
        """
        for name in ("Ridge", "Spare"):
            reader = make_reader(self.blog, name, ReaderDocument(url="https://ridge.example/"), now=NOW)
            body = zlib.compress(b"<ul><li><a href='/1'>One title here</a><li><a href='/2'>Two titles here</a></ul>")
            kept = Snapshot.objects.create(
                blog=self.blog, reader=reader, url=reader.url, body=body, size=1, taken_at=NOW, lists=True
            )
        return kept.pk, signing.dumps("https://club.example/a.png", salt="glyptarch.pages.asset")

    def withdrawn(self) -> int:
        spare = make_source(self.blog, "withdrawn")
        return take_down_source(spare, asked_by="x", reason="", now=NOW).pk

    def task_of_a_reviewer(self) -> int:
        """Begin a change of many posts, which reviewers may begin and stop."""
        task = begin_task("change", 0, blog_id=self.blog.pk, subject="", now=NOW, role=Role.REVIEWER, queue=False)
        return task.pk

    def offer_endpoints(self, base: str) -> list[tuple[str, str, Any, Role]]:
        common = {
            "blog": self.blog,
            "shop": "club",
            "title": "Eyepiece",
            "link": "http://club.example/",
            "made_at": NOW,
        }
        held = {"price": "8.90", "list_price": None, "currency": "EUR"}
        one = Product.objects.create(number="1", key="club/1", read_at=NOW, held=held, **common)
        Product.objects.create(number="2", key="club/2", read_at=NOW, **common)
        product = f"{base}/offers/{one.pk}"
        return [
            ("GET", f"{base}/offers", None, Role.VIEWER),
            ("GET", product, None, Role.VIEWER),
            ("POST", f"{product}/reading", None, Role.EDITOR),
            ("POST", f"{product}/price", {"take": True}, Role.EDITOR),
            ("PUT", f"{product}/successor", {"key": "club/2"}, Role.EDITOR),
            ("GET", f"{base}/offer-clicks?by=block", None, Role.VIEWER),
            ("GET", f"{base}/offer-clicks.csv", None, Role.VIEWER),
            ("GET", f"{base}/offer-rules", None, Role.OWNER),
            ("PUT", f"{base}/offer-rules", {"document": {"disclosure": "We earn by it."}}, Role.OWNER),
        ]

    def edition_endpoints(self, base: str) -> list[tuple[str, str, Any, Role]]:
        german = {"tag": "de", "services": ["machine"]}
        Blog.objects.filter(pk=self.blog.pk).update(languages={"languages": [german]})
        common = {"blog": self.blog, "language": "de", "mode": "hold", "asked_at": NOW}
        Edition.objects.create(original=self.post, state="failed", **common)
        editions = f"{base}/posts/{self.post.pk}/editions"
        wanted = {"language": "de", "mode": "hold"}
        return [
            ("GET", f"{base}/languages", None, Role.VIEWER),
            ("POST", f"{base}/editions", {"ids": [self.post.pk], **wanted}, Role.EDITOR),
            ("GET", editions, None, Role.VIEWER),
            ("POST", editions, wanted, Role.EDITOR),
            ("GET", f"{editions}/de", None, Role.VIEWER),
            ("POST", f"{editions}/de/anew", None, Role.EDITOR),
            ("PUT", f"{base}/languages", {"document": {"languages": [{"tag": "de"}]}}, Role.OWNER),
        ]

    def replay_endpoints(self, base: str) -> list[tuple[str, str, Any, Role]]:
        found = Replay.objects.create(
            campaign=self.campaign, revision=self.campaign.revisions.get(), state="ready", asked_at=NOW
        )
        result = ReplayResult.objects.create(
            replay=found, item=self.post.item, post=self.post, outcome="changed", title="x", values={"byline": "Mira"}
        )
        one = f"{base}/replays/{found.pk}"
        return [
            ("GET", one, None, Role.VIEWER),
            ("GET", f"{one}/results", None, Role.VIEWER),
            ("GET", f"{one}/results/{result.pk}", None, Role.VIEWER),
            ("POST", f"{one}/apply", {"outcomes": ["changed"]}, Role.EDITOR),
            ("POST", f"{one}/stop", None, Role.EDITOR),
        ]

    def post_endpoints(self, base: str) -> list[tuple[str, str, Any, Role]]:
        """Return the endpoints of posts, their changes, and pictures."""
        other = Post.objects.order_by("pk")[1].pk
        one, changes = f"{base}/posts/{other}", f"{base}/post-changes"
        change = begin_change(self.blog, Action.BYLINE, {"byline": "Desk"}, [other], now=NOW).pk
        Correction.objects.create(post_id=other, at=NOW, values={"title": "x"})
        view = keep_view(self.blog, "Thin", "longest=90").pk
        drawn = BytesIO()
        Image.new("RGB", (40, 30)).save(drawn, "PNG")
        picture = keep_upload(self.blog, "moon.png", drawn.getvalue(), now=NOW).pk
        recording = Recording.objects.create(
            blog=self.blog, url="https://a.example/1", url_hash="1", state="given_up", most_bytes=1, asked_at=NOW
        ).pk
        described = {"name": "Moon", "focus_x": 0.5, "focus_y": 0.5}
        return [
            ("POST", f"{base}/posts", {"title": "By hand"}, Role.EDITOR),
            ("GET", f"{base}/posts.csv", None, Role.VIEWER),
            ("GET", f"{one}/values", None, Role.VIEWER),
            ("PUT", one, {"version": 2, "title": "By hand"}, Role.EDITOR),
            ("GET", f"{one}/history", None, Role.VIEWER),
            ("GET", f"{one}/alike", None, Role.VIEWER),
            ("GET", f"{one}/same-event", None, Role.VIEWER),
            ("GET", f"{one}/correction", None, Role.VIEWER),
            ("POST", f"{one}/correction", {"take": False}, Role.EDITOR),
            ("GET", f"{one}/versions/1", None, Role.VIEWER),
            ("POST", f"{one}/versions/1/restore", {"seen": 3}, Role.EDITOR),
            ("POST", f"{base}/post-preview", {"post": other, "title": "x"}, Role.VIEWER),
            ("GET", f"{base}/held-reasons", None, Role.VIEWER),
            ("GET", f"{base}/reads", None, Role.VIEWER),
            ("POST", changes, {"action": "moved", "to": "held", "ids": [other]}, Role.REVIEWER),
            ("POST", changes, {"action": "tags", "add": ["x"], "ids": [other]}, Role.EDITOR),
            ("POST", f"{changes}/count", {"ids": [other]}, Role.VIEWER),
            ("GET", changes, None, Role.VIEWER),
            ("GET", f"{changes}/{change}", None, Role.VIEWER),
            ("POST", f"{changes}/{change}/stop", None, Role.REVIEWER),
            ("POST", f"{changes}/{change}/take-back", None, Role.EDITOR),
            ("GET", f"{base}/post-views", None, Role.VIEWER),
            ("POST", f"{base}/post-views", {"name": "x", "query": "a=b"}, Role.REVIEWER),
            ("DELETE", f"{base}/post-views/{view}", None, Role.REVIEWER),
            ("GET", f"{base}/pictures", None, Role.VIEWER),
            ("GET", f"{base}/pictures/{picture}/posts", None, Role.VIEWER),
            ("PUT", f"{base}/pictures/{picture}", described, Role.EDITOR),
            ("DELETE", f"{base}/pictures/{picture}", None, Role.EDITOR),
            ("GET", f"{base}/picture-copies", None, Role.VIEWER),
            ("POST", f"{base}/picture-copies/retry", None, Role.EDITOR),
            ("GET", f"{base}/recordings", None, Role.VIEWER),
            ("POST", f"{base}/recordings/{recording}/retry", None, Role.EDITOR),
            ("POST", f"{base}/recordings/{recording}/stop", None, Role.EDITOR),
        ]

    def endpoints(self) -> list[tuple[str, str, Any, Role]]:
        """Every endpoint of a blog, with a body it takes, and the least role that may use it."""
        base, campaign = "/blogs/meadow", "/blogs/meadow/campaigns/sky"
        decision = Decision.objects.order_by("pk")[0].pk
        make_connection(
            self.blog,
            "json",
            name="Plain API",
            address="https://api.example/",
            fields=API_CONNECTION["fields"],
            now=NOW,
        )
        notes = {"client": "c"}
        make_connection(self.blog, "notes", name="Notes", address="https://n.example/", fields=notes, now=NOW)
        feeds = listed_addresses(["https://wire.example/feed"])
        feed_list = bring_in(self.blog, "Sky", feeds, labels=[], by=self.owner, now=NOW).pk
        Task.objects.filter(kind="feed_list").update(state="done", ended_at=NOW)
        pattern = keep_pattern(self.blog, "Films", "https://film.example/feed?channel={channel}").pk
        add_platform_source(self.blog, "json", "Plain", connection="", parameters=API, search_words=[], now=NOW)
        sample = keep_sample(self.blog, FEED, name="", now=NOW).pk
        tag, other_tag = (add_name(self.blog, NameKind.TAG, name) for name in ("Mist", "Fog"))
        category = add_name(self.blog, NameKind.CATEGORY, "Weather")
        invited, _ = invite(self.blog, "ida@club.example", Role.VIEWER, by=self.owner, desk="", now=NOW)
        add_member(self.blog, make_user("otto"), Role.VIEWER)
        member = self.blog.members.get(user__username="otto").pk
        page, signed = self.kept_page()
        make_campaign(self.blog, "Spare")
        item = {"document": RULES, "item": self.post.item_id, "as_of": "2026-11-24T12:00:00Z"}
        return [
            ("GET", base, None, Role.VIEWER),
            ("GET", f"{base}/campaign-overview", None, Role.VIEWER),
            ("GET", f"{base}/found-campaigns", None, Role.VIEWER),
            ("GET", f"{base}/campaigns-by-source?sources=club", None, Role.VIEWER),
            ("POST", f"{base}/campaigns", {"name": "New", "document": RULES}, Role.EDITOR),
            ("GET", campaign, None, Role.VIEWER),
            ("PATCH", campaign, {"name": "Sky"}, Role.EDITOR),
            ("POST", f"{campaign}/revisions", {"document": RULES, "base": 1}, Role.EDITOR),
            ("GET", f"{campaign}/revisions", None, Role.VIEWER),
            ("POST", f"{campaign}/proof", {"document": RULES}, Role.VIEWER),
            ("POST", f"{base}/tried-rules", {"documents": [RULES]}, Role.EDITOR),
            ("POST", f"{campaign}/proof/item", item, Role.VIEWER),
            ("POST", f"{campaign}/proof/preview", item, Role.VIEWER),
            ("POST", f"{campaign}/proof/step", {**item, "document": STEPPED, "step": "tidy"}, Role.VIEWER),
            ("GET", f"{campaign}/revisions/1", None, Role.VIEWER),
            ("GET", f"{campaign}/yaml", None, Role.VIEWER),
            ("GET", f"{campaign}/memory", None, Role.VIEWER),
            ("PUT", f"{campaign}/schedule", {"schedule": {}}, Role.EDITOR),
            ("GET", f"{campaign}/checkup", None, Role.VIEWER),
            ("POST", f"{base}/schedule-times", {"schedule": {}}, Role.VIEWER),
            ("POST", f"{base}/pause", {"paused": False}, Role.EDITOR),
            ("PUT", f"{base}/time-zone", {"time_zone": "UTC"}, Role.OWNER),
            ("POST", f"{campaign}/runs", None, Role.EDITOR),
            ("GET", f"{base}/runs", None, Role.VIEWER),
            ("GET", f"{base}/tasks", None, Role.VIEWER),
            ("POST", f"{base}/tasks/{self.task_of_a_reviewer()}/stop", None, Role.REVIEWER),
            ("GET", f"{base}/runs/{self.first_run.pk}", None, Role.VIEWER),
            ("POST", f"{base}/runs/{self.first_run.pk}/stop", None, Role.EDITOR),
            ("GET", f"{base}/runs/{self.first_run.pk}/decisions", None, Role.VIEWER),
            ("GET", f"{base}/decisions/{decision}", None, Role.VIEWER),
            ("GET", f"{base}/decisions", None, Role.VIEWER),
            ("GET", f"{base}/posts", None, Role.VIEWER),
            ("GET", f"{base}/posts/{self.post.pk}", None, Role.VIEWER),
            ("GET", f"{base}/posts/{self.post.pk}/decision", None, Role.VIEWER),
            ("GET", f"{base}/posts/{self.post.pk}/preview", None, Role.VIEWER),
            ("POST", f"{base}/posts/{self.post.pk}/state", {"state": "held"}, Role.REVIEWER),
            *self.post_endpoints(base),
            ("GET", f"{base}/comments", None, Role.VIEWER),
            ("POST", f"{base}/comments/{self.comment.pk}/state", {"state": "shown"}, Role.REVIEWER),
            ("GET", f"{base}/sources", None, Role.VIEWER),
            ("GET", f"{base}/sources/club", None, Role.VIEWER),
            ("GET", f"{base}/sources/club/access", None, Role.EDITOR),
            ("GET", f"{base}/sources/club/facts", None, Role.VIEWER),
            ("GET", f"{base}/sources/club/push", None, Role.VIEWER),
            ("POST", f"{base}/pages", {"url": "https://club.example/"}, Role.EDITOR),
            ("GET", f"{base}/pages/{page}", None, Role.VIEWER),
            ("GET", f"{base}/pages/{page}/frame", None, Role.VIEWER),
            ("GET", f"{base}/pages/{page}/asset?of={signed}", None, Role.VIEWER),
            ("POST", f"{base}/pages/{page}/point", {"examples": [3]}, Role.EDITOR),
            ("POST", f"{base}/pages/{page}/match", {"selector": "a"}, Role.VIEWER),
            ("POST", f"{base}/pages/{page}/list", {"document": {}}, Role.VIEWER),
            ("POST", f"{base}/reader-test", {"document": {}, "urls": []}, Role.EDITOR),
            ("GET", f"{base}/readers", None, Role.VIEWER),
            ("POST", f"{base}/readers", {"name": "New", "document": {"url": "https://a.example/"}}, Role.EDITOR),
            ("GET", f"{base}/readers/ridge", None, Role.VIEWER),
            ("PUT", f"{base}/readers/ridge", {"name": "Ridge", "document": {}, "seen": NOW.isoformat()}, Role.EDITOR),
            ("GET", f"{base}/readers/ridge/yaml", None, Role.VIEWER),
            ("GET", f"{base}/readers/ridge/pages", None, Role.VIEWER),
            ("POST", f"{base}/reader-yaml", {"yaml": "name: X"}, Role.EDITOR),
            ("GET", f"{base}/readers/ridge/mend", None, Role.VIEWER),
            ("POST", f"{base}/readers/ridge/mend", None, Role.EDITOR),
            ("POST", f"{base}/page-sources", {"reader": "ridge", "title": "Ridge"}, Role.EDITOR),
            ("DELETE", f"{base}/readers/spare", None, Role.EDITOR),
            ("POST", f"{base}/taken-pages", {"url": "https://article.example/"}, Role.EDITOR),
            ("GET", f"{base}/connections", None, Role.VIEWER),
            ("POST", f"{base}/connections", {**API_CONNECTION, "platform": "json"}, Role.EDITOR),
            ("PUT", f"{base}/connections/plain-api", API_CONNECTION, Role.EDITOR),
            ("POST", f"{base}/connections/plain-api/check", None, Role.EDITOR),
            ("POST", f"{base}/connections/notes/sign-in", None, Role.EDITOR),
            ("DELETE", f"{base}/connections/plain-api", None, Role.EDITOR),
            ("POST", f"{base}/platform-test", {"platform": "json", "parameters": API}, Role.EDITOR),
            (
                "POST",
                f"{base}/platform-sources",
                {"platform": "json", "title": "Tides", "parameters": API},
                Role.EDITOR,
            ),
            ("PUT", f"{base}/sources/plain/asks", {"parameters": API}, Role.EDITOR),
            ("GET", f"{base}/sources/plain/asks-yaml", None, Role.VIEWER),
            ("POST", f"{base}/asks-yaml", {"yaml": "platform: wire"}, Role.EDITOR),
            ("GET", f"{base}/last-asked/json", None, Role.VIEWER),
            ("GET", f"{base}/sources/plain/words", None, Role.VIEWER),
            ("GET", f"{base}/sources/plain/suggested-words", None, Role.VIEWER),
            ("GET", f"{base}/address-patterns", None, Role.VIEWER),
            ("POST", f"{base}/address-patterns", {"name": "More", "address": "https://a.example/{b}"}, Role.EDITOR),
            ("DELETE", f"{base}/address-patterns/{pattern}", None, Role.EDITOR),
            ("GET", f"{base}/sources/club/texts", None, Role.VIEWER),
            (
                "PATCH",
                f"{base}/sources/club",
                {"title": "Club", "right": "full", "right_words": 50, "full_text_words": 50},
                Role.EDITOR,
            ),
            ("POST", f"{base}/sources/club/texts", {}, Role.EDITOR),
            ("GET", f"{base}/sources/club/older", None, Role.VIEWER),
            ("POST", f"{base}/sources/club/older/count", {"floor": "2026-01-01"}, Role.EDITOR),
            ("POST", f"{base}/sources/club/older", {"floor": "2026-01-01"}, Role.EDITOR),
            ("DELETE", f"{base}/sources/club/older", None, Role.EDITOR),
            ("PUT", f"{base}/sources/club/access", {"pause_ms": 500}, Role.EDITOR),
            ("POST", f"{base}/chosen-sources", {"keys": ["club"]}, Role.VIEWER),
            ("POST", f"{base}/found-sources", {"search": "c"}, Role.VIEWER),
            ("POST", f"{base}/sources-together", {"keys": ["club"], "change": "resume"}, Role.EDITOR),
            (
                "POST",
                f"{base}/sources-together/rights",
                {"keys": ["club"], "right": "full", "right_words": 55},
                Role.EDITOR,
            ),
            ("POST", f"{base}/sources-together/access", {"keys": ["club"], "tries": 2}, Role.EDITOR),
            ("POST", f"{base}/campaigns/sky/sources", {"keys": ["club"]}, Role.EDITOR),
            ("POST", f"{base}/feed-list-preview", {"content": base64.b64encode(OPML).decode()}, Role.EDITOR),
            ("POST", f"{base}/feed-lists", {"addresses": ["https://owls.example/feed"]}, Role.EDITOR),
            ("GET", f"{base}/feed-lists", None, Role.VIEWER),
            ("GET", f"{base}/feed-lists/{feed_list}", None, Role.VIEWER),
            ("POST", f"{base}/feed-lists/{feed_list}/again", None, Role.EDITOR),
            ("GET", f"{base}/opml", None, Role.VIEWER),
            ("POST", f"{base}/sources/check", {"addresses": ["https://club.example/feed"]}, Role.EDITOR),
            ("POST", f"{base}/sources/club/read", None, Role.EDITOR),
            ("POST", f"{base}/new-source", {"url": "https://new.example/feed"}, Role.EDITOR),
            ("POST", f"{base}/word-lists", {"name": "Other", "words": ["a"]}, Role.EDITOR),
            ("PUT", f"{base}/word-lists/unused", {"name": "Unused", "words": ["b"]}, Role.EDITOR),
            ("DELETE", f"{base}/unused-word-lists/unused", None, Role.EDITOR),
            ("POST", f"{base}/term-tables", {"name": "Other", "text": "dome,Dome"}, Role.EDITOR),
            ("PUT", f"{base}/term-tables/unused", {"name": "Unused", "text": "dome,Dome"}, Role.EDITOR),
            ("DELETE", f"{base}/unused-term-tables/unused", None, Role.EDITOR),
            ("GET", f"{base}/seen-categories", None, Role.VIEWER),
            ("GET", f"{base}/library-uses", None, Role.VIEWER),
            ("GET", f"{base}/services", None, Role.VIEWER),
            ("GET", f"{base}/posts/{self.post.pk}/findable", None, Role.VIEWER),
            ("GET", f"{base}/keeping", None, Role.OWNER),
            ("GET", f"{base}/blog-file", None, Role.EDITOR),
            ("POST", f"{base}/blog-file/comparison", {"yaml": "format: 1"}, Role.EDITOR),
            (
                "POST",
                f"{base}/blog-file",
                {"yaml": "format: 1", "stamp": "x", "chosen": [{"kind": "defaults", "key": "defaults"}]},
                Role.EDITOR,
            ),
            ("PUT", f"{base}/keeping", {"keeping": {"traces": 30}}, Role.OWNER),
            ("POST", f"{base}/keeping/freed", {"keeping": {"traces": 30}}, Role.OWNER),
            ("POST", f"{base}/services", {"name": "Machine", "document": MACHINE}, Role.EDITOR),
            ("PUT", f"{base}/services/machine", {"name": "Machine", "document": MACHINE}, Role.EDITOR),
            ("GET", f"{base}/services/machine/bill", None, Role.VIEWER),
            ("POST", f"{base}/services/machine/try", {"text": "x"}, Role.EDITOR),
            ("POST", f"{base}/services-again", None, Role.EDITOR),
            *self.edition_endpoints(base),
            ("DELETE", f"{base}/unused-services/machine", None, Role.EDITOR),
            ("POST", f"{campaign}/proof/texts", item, Role.EDITOR),
            ("GET", f"{base}/today", None, Role.VIEWER),
            ("GET", f"{base}/defaults", None, Role.VIEWER),
            ("PUT", f"{base}/defaults", RULES, Role.EDITOR),
            ("DELETE", f"{base}/defaults", None, Role.EDITOR),
            ("GET", f"{base}/samples", None, Role.VIEWER),
            ("PATCH", f"{base}/samples/{sample}", {"name": "A week of the club"}, Role.EDITOR),
            ("DELETE", f"{base}/samples/{sample}", None, Role.EDITOR),
            ("POST", f"{base}/samples", {"content": base64.b64encode(FEED).decode()}, Role.EDITOR),
            ("PATCH", f"{base}/sources/club", {"title": "Club", "right": "excerpt", "right_words": 50}, Role.EDITOR),
            ("DELETE", f"{base}/sources/club", None, Role.EDITOR),
            ("POST", f"{base}/runs/{self.first_run.pk + 1}/stop", None, Role.EDITOR),
            ("DELETE", f"{campaign}/memory", None, Role.EDITOR),
            ("POST", f"{campaign}/memory/forget", {"items": [1]}, Role.EDITOR),
            ("POST", f"{campaign}/let-through", {"items": [1]}, Role.EDITOR),
            ("GET", f"{base}/archived-campaigns", None, Role.VIEWER),
            ("PUT", f"{campaign}/archived", {"archived": False}, Role.EDITOR),
            ("GET", f"{campaign}/goes-with-it", None, Role.VIEWER),
            ("GET", f"{campaign}/address", None, Role.EDITOR),
            ("PUT", f"{campaign}/address", {"email": ""}, Role.EDITOR),
            ("GET", f"{base}/notices", None, Role.VIEWER),
            ("PUT", f"{base}/notices", {"problems": True, "posts": False, "digest": "daily"}, Role.VIEWER),
            ("GET", f"{base}/people", None, Role.VIEWER),
            ("POST", f"{base}/invitations", {"email": "new@club.example", "role": "viewer"}, Role.OWNER),
            ("DELETE", f"{base}/invitations/{invited.pk}", None, Role.OWNER),
            ("PATCH", f"{base}/people/{member}", {"role": "viewer"}, Role.OWNER),
            ("DELETE", f"{base}/people/{member}", None, Role.OWNER),
            ("GET", f"{base}/audit", None, Role.OWNER),
            ("GET", f"{base}/names/tag", None, Role.VIEWER),
            ("POST", f"{base}/names/tag", {"name": "Dew"}, Role.EDITOR),
            ("PATCH", f"{base}/names/tag/{tag.pk}", {"name": "Frost"}, Role.EDITOR),
            ("POST", f"{base}/names/tag/{tag.pk}/merge", {"into": other_tag.pk}, Role.EDITOR),
            ("DELETE", f"{base}/names/tag/{other_tag.pk}", None, Role.EDITOR),
            ("PUT", f"{base}/category-parents/{category.pk}", {"parent": None}, Role.EDITOR),
            ("GET", f"{campaign}/replays/last", None, Role.VIEWER),
            *self.replay_endpoints(base),
            ("POST", f"{base}/campaigns/spare/replays", {}, Role.EDITOR),
            ("GET", f"{base}/runs/{self.first_run.pk}/take-back", None, Role.VIEWER),
            ("POST", f"{base}/runs/{self.first_run.pk}/take-back", {"spare": True}, Role.EDITOR),
            ("GET", f"{campaign}/again", None, Role.VIEWER),
            ("POST", f"{base}/campaigns/spare/again", {"spare": True}, Role.EDITOR),
            ("POST", f"{base}/sources/plain/takedown", {"asked_by": "its owner"}, Role.EDITOR),
            ("POST", f"{base}/posts/{self.post.pk}/takedown", {"asked_by": "its author"}, Role.EDITOR),
            ("GET", f"{base}/takedowns", None, Role.VIEWER),
            ("POST", f"{base}/takedowns/{self.withdrawn()}/lift", None, Role.EDITOR),
            ("DELETE", f"{base}/bin", None, Role.EDITOR),
            ("POST", f"{campaign}/deletion", None, Role.EDITOR),
            ("PATCH", base, {"title": "Meadow", "language": "en"}, Role.OWNER),
            *self.offer_endpoints(base),
            ("PUT", f"{base}/appearance", {"appearance": {"front": "journal"}}, Role.OWNER),
            ("POST", f"{base}/appearance/preview", {"appearance": {"front": "guide"}}, Role.OWNER),
            ("DELETE", base, None, Role.OWNER),
        ]


class Caching(ApiCase):
    def test_answers_of_the_api_are_cached_nowhere(self) -> None:
        for user, path in ((None, "/session"), (self.viewer, "/blogs/meadow/posts")):
            self.assertEqual(self.call(user, "GET", path)["Cache-Control"], "no-store")


class MembershipFirst(ApiCase):
    """A stranger to a blog gets 404 for it, whatever else is asked."""

    def test_of_every_operation_with_a_blog_in_its_path(self) -> None:
        schema = json.loads(schema_text())
        paths = [(method, path) for path, methods in schema["paths"].items() for method in methods if "{blog}" in path]
        self.assertGreater(len(paths), 150)
        bodies = ("", "{", "[]", '{"schedule": {}, "time_zone": "Europe/Berlin"}', '{"url": 1e999}')
        desk = self.as_(self.stranger)
        for method, path in paths:
            filled = re.sub(r"\{[^}]+\}", "1", path.replace("{blog}", "meadow"))
            for body in bodies:
                with self.subTest(f"{method} {path} {body}"):
                    answer = desk.generic(method.upper(), filled, body, "application/json")
                    self.assertEqual(answer.status_code, 404, answer.content[:200])
                    self.assertIn("You have no blog named", answer.json()["detail"])

    def test_a_token_is_asked_as_a_person_is(self) -> None:
        _, key = make_token(self.stranger, "t", Role.OWNER, days=9, now=NOW)
        answer = Client().put(
            "/api/blogs/meadow/campaigns/sky/schedule",
            "{",
            content_type="application/json",
            headers={"Authorization": f"Bearer {key}"},
        )
        self.assertIn("You have no blog named", answer.json()["detail"])


class Rights(ApiCase):
    def test_every_role_may_do_what_the_matrix_says(self) -> None:
        portal = CannedPortal(
            {
                "https://new.example/feed": FEED,
                "https://club.example/": b"<p>A page.</p>",
                "https://article.example/": ARTICLE,
            }
        )
        people = {Role.VIEWER: self.viewer, Role.REVIEWER: self.reviewer, Role.EDITOR: self.editor}
        with patch.object(wiring, "fetcher", return_value=portal):
            for method, path, body, least in self.endpoints():
                with self.subTest(f"{method} {path}"):
                    self.assertEqual(self.call(None, method, path, body).status_code, 401)
                    self.assertEqual(self.call(self.stranger, method, path, body).status_code, 404)
                    for role, person in people.items():
                        if role.rank < least.rank:
                            self.assertEqual(self.call(person, method, path, body).status_code, 403, role)
                    person = people.get(least, self.owner)
                    self.assertLess(self.call(person, method, path, body).status_code, 300)

    def test_the_matrix_names_every_endpoint_of_a_blog(self) -> None:

        patterns = {
            (method.upper(), re.compile(re.sub(r"\{[^}]+\}", "[^/]+", path.removeprefix("/api")) + "$"))
            for path, methods in json.loads(schema_text())["paths"].items()
            if "{blog}" in path
            for method in methods
        }
        named = [(method, path) for method, path, _, _ in self.endpoints()]
        # An upload of a file, for which the matrix has no body; the tests of pictures check its roles.
        named.append(("POST", "/blogs/meadow/pictures"))
        for method, pattern in patterns:
            self.assertTrue(
                any(m == method and pattern.match(p.partition("?")[0]) for m, p in named), f"{method} {pattern.pattern}"
            )

    def test_what_belongs_to_another_blog_is_not_found(self) -> None:
        make_blog("other", self.owner)
        for path in (f"/runs/{self.first_run.pk}", f"/posts/{self.post.pk}", "/campaigns/sky", "/sources/club"):
            self.assertEqual(self.call(self.owner, "GET", f"/blogs/other{path}").status_code, 404)


class Sessions(ApiCase):
    def sign_in(self, name: str, password: str, client: Client | None = None) -> Any:  # noqa: ANN401
        body = json.dumps({"name": name, "password": password})
        return (client or Client()).post("/api/session", body, content_type="application/json")

    def test_a_person_signs_in_and_out(self) -> None:
        client = Client()
        self.assertEqual(self.sign_in("mira", PASSWORD, client).json()["name"], "Mira")
        self.assertEqual([blog["slug"] for blog in client.get("/api/blogs").json()], ["meadow"])
        client.delete("/api/session")
        self.assertEqual(client.get("/api/blogs").status_code, 401)

    def test_changes_need_the_token(self) -> None:
        client = Client(enforce_csrf_checks=True)
        self.assertEqual(self.sign_in("mira", PASSWORD, client).status_code, 403)
        client.force_login(self.owner)
        refused = client.post("/api/blogs/meadow/campaigns/sky/runs")
        self.assertEqual((refused.status_code, refused.json()["type"]), (403, "/problems/old-token"))
        token = client.get("/api/session").json()["csrf_token"]
        answer = client.post("/api/blogs/meadow/campaigns/sky/runs", headers={"X-CSRFToken": token})
        self.assertEqual(answer.status_code, 200)

    def test_a_token_of_before_a_sign_in_is_said_to_be_old_and_a_missing_role_is_not(self) -> None:
        client = Client(enforce_csrf_checks=True)
        client.force_login(self.viewer)
        before = client.get("/api/session").json()["csrf_token"]
        path, fresh = "/api/blogs/meadow/campaigns/sky/runs", {"name": "mira", "password": PASSWORD}
        headers = {"X-CSRFToken": before}
        self.assertEqual(client.post(path, headers=headers).json()["type"], "about:blank")
        client.post("/api/session", json.dumps(fresh), "application/json", headers=headers)
        self.assertEqual(client.post(path, headers=headers).json()["type"], "/problems/old-token")


class Campaigns(ApiCase):
    def test_a_document_with_faults_comes_back_with_their_paths(self) -> None:
        bad = {**RULES, "sift": {"rules": [{"id": "a", "kind": "number"}]}}
        answer = self.call(self.owner, "POST", "/blogs/meadow/campaigns/sky/proof", {"document": bad})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("sift.rules.0", answer.json()["faults"][0]["path"])

    def test_a_fault_of_a_search_names_its_field_and_character(self) -> None:
        bad = {**RULES, "sift": {"rules": [{"id": "a", "kind": "query", "query": "moon -"}]}}
        answer = self.call(self.owner, "POST", "/blogs/meadow/campaigns/sky/proof", {"document": bad})
        fault = answer.json()["faults"][0]
        self.assertEqual(fault["path"], "sift.rules.0.query")
        self.assertTrue(fault["message"].startswith("at character 6: "))

    def test_saving_on_an_old_revision_is_a_conflict_and_writes_nothing(self) -> None:
        path = "/blogs/meadow/campaigns/sky/revisions"
        first = self.call(self.owner, "POST", path, {"document": {**RULES, "release": {"mode": "draft"}}, "base": 1})
        self.assertEqual(first.json()["revision"], 2)
        second = self.call(self.owner, "POST", path, {"document": RULES, "base": 1})
        self.assertEqual(second.status_code, 409)
        self.assertIn("Mira", second.json()["detail"])
        self.assertEqual(self.call(self.owner, "GET", path).json()["total"], 2)

    def test_saving_what_is_saved_makes_no_revision(self) -> None:
        document = self.call(self.owner, "GET", "/blogs/meadow/campaigns/sky").json()["document"]
        body = {"document": document, "base": 1}
        self.assertEqual(
            self.call(self.owner, "POST", "/blogs/meadow/campaigns/sky/revisions", body).json()["revision"], 1
        )

    def test_a_source_that_does_not_exist_is_named(self) -> None:
        body = {"name": "X", "document": {"gather": {"sources": ["nowhere"]}}}
        answer = self.call(self.owner, "POST", "/blogs/meadow/campaigns", body)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("nowhere", answer.json()["detail"])

    def test_the_overview_counts_posts_without_a_query_for_each_campaign(self) -> None:
        for number in range(6):
            make_campaign(self.blog, f"More {number}")
        client = self.as_(self.owner)
        with self.assertNumQueries(9):
            rows = client.get("/api/blogs/meadow/campaign-overview").json()["rows"]
        self.assertEqual({row["slug"]: row["published"] for row in rows}["sky"], 3)

    def test_the_overview_is_narrowed_and_put_in_order(self) -> None:
        for name, mode in (("Alpha", "publish"), ("Beta", "hold")):
            make_campaign(self.blog, name, release={"mode": mode})
        Run.objects.filter(campaign__slug="sky").update(state="failed")

        def slugs(query: str) -> list[str]:
            rows = self.call(self.owner, "GET", f"/blogs/meadow/campaign-overview?{query}").json()["rows"]
            return [row["slug"] for row in rows]

        self.assertEqual(slugs("mode=publish"), ["alpha", "sky"])
        self.assertEqual(slugs("failed=true"), ["sky"])
        self.assertEqual(slugs("sort=run")[0], "sky")
        self.assertEqual(slugs("sort=name"), ["alpha", "beta", "sky"])
        for query in ("", "mode=publish", "failed=true", "search=bet", "state=paused"):
            found = self.call(self.owner, "GET", f"/blogs/meadow/found-campaigns?{query}").json()
            self.assertEqual(sorted(found), sorted(slugs(query)), query)
        self.assertEqual(self.call(self.owner, "GET", "/blogs/meadow/campaign-overview?sort=x").status_code, 422)

    def test_posts_are_counted_by_state_within_the_campaign_or_source_chosen(self) -> None:
        make_campaign(self.blog, "Empty")
        path = "/blogs/meadow/posts"
        whole = self.call(self.owner, "GET", path).json()["states"]
        self.assertEqual(self.call(self.owner, "GET", f"{path}?campaign=sky").json()["states"], whole)
        other = self.call(self.owner, "GET", f"{path}?campaign=empty").json()
        self.assertEqual((sum(other["states"].values()), other["total"]), (0, 0))
        self.assertEqual(sum(self.call(self.owner, "GET", f"{path}?source=nowhere").json()["states"].values()), 0)
        self.assertGreater(sum(whole.values()), 0)

    def test_the_categories_of_sources_are_counted_most_frequent_first(self) -> None:
        items = list(self.source.items.order_by("pk"))
        for item, categories in zip(items, (["Gear", "Gear"], ["Gear", "Sky"], []), strict=True):
            type(item).objects.filter(pk=item.pk).update(categories=categories)
        make_source(self.blog, "wire", stories=1)
        answer = self.call(self.editor, "GET", "/blogs/meadow/seen-categories?sources=club,nowhere")
        self.assertEqual(answer.json(), [{"name": "Gear", "count": 2}, {"name": "Sky", "count": 1}])
        self.assertEqual(self.call(self.editor, "GET", "/blogs/meadow/seen-categories").json(), [])

    def test_a_list_of_feeds_is_read_and_names_what_is_a_source_already(self) -> None:
        body = OPML.replace(
            b"</body>", b"<outline text='Sky'><outline text='Wire' xmlUrl='https://w.example/f'/></outline></body>"
        )
        answer = self.call(
            self.owner, "POST", "/blogs/meadow/feed-list-preview", {"content": base64.b64encode(body).decode()}
        )
        self.assertEqual(
            [(feed["title"], feed["folders"], feed["known_as"]) for feed in answer.json()["first"]],
            [("Club", [], "Club"), ("Wire", ["Sky"], "")],
        )
        bad = self.call(
            self.owner, "POST", "/blogs/meadow/feed-list-preview", {"content": base64.b64encode(b"<rss/>").decode()}
        )
        self.assertEqual(bad.status_code, 422)
        self.assertIn("no OPML", bad.json()["detail"])
        written = self.call(self.editor, "GET", "/blogs/meadow/opml")
        self.assertEqual(written["Content-Disposition"], 'attachment; filename="meadow.opml"')
        self.assertIn(b'xmlUrl="https://club.example/feed"', written.content)

    def test_a_sample_is_renamed_and_removed(self) -> None:
        sample = keep_sample(self.blog, FEED, name="", now=NOW)
        path = f"/blogs/meadow/samples/{sample.pk}"
        self.assertEqual(self.call(self.owner, "PATCH", path, {"name": " Club week "}).json()["name"], "Club week")
        self.assertEqual(self.call(self.owner, "PATCH", path, {"name": " "}).status_code, 422)
        self.assertEqual(self.call(self.owner, "GET", "/blogs/meadow/samples").json()[0]["name"], "Club week")
        self.assertEqual(self.call(self.owner, "DELETE", path).status_code, 204)
        self.assertEqual(self.call(self.owner, "DELETE", path).status_code, 404)
        self.assertFalse(Sample.objects.exists())

    def test_what_a_search_finds_is_counted_by_state_as_far_as_it_is_listed(self) -> None:
        path = "/blogs/meadow/posts"
        first, *others = Post.objects.order_by("pk")
        Post.objects.filter(pk=first.pk).update(title="Nebula", excerpt="", state="held")
        Post.objects.filter(pk__in=[other.pk for other in others]).update(title="A nebula", state="published")
        found = self.call(self.owner, "GET", f"{path}?search=nebula&state=held").json()
        self.assertEqual((found["total"], found["states"]["held"], found["states"]["published"]), (1, 1, len(others)))
        with patch("glyptarch_server.posts.desk_list.SEARCHED", 1):
            much = self.call(self.owner, "GET", f"{path}?search=nebula").json()
        self.assertEqual((much["states"], len(much["rows"])), (None, 1))

    def test_a_post_says_how_it_is_found_and_what_it_lacks(self) -> None:
        post = Post.objects.order_by("pk")[0]
        path = f"/blogs/meadow/posts/{post.pk}/findable"
        Post.objects.filter(pk=post.pk).update(
            title="x" * 61,
            description="",
            excerpt="",
            body="<p>Short.</p>",
            lead_url="",
            canonical="https://club.example/1",
        )
        found = self.call(self.viewer, "GET", path).json()
        self.assertEqual(
            [one["lack"] for one in found["lacks"]],
            ["original_elsewhere", "title_long", "no_description", "no_picture", "text_short"],
        )
        self.assertEqual((found["mapped"], found["original"]), (False, "https://club.example/1"))
        told = "Seen over the ridge at nine, with a tail as long as a hand is wide, by four of us."
        Post.objects.filter(pk=post.pk).update(
            title="A comet", description=told, body=f"<p>{'word ' * 60}</p>", canonical="", lead_url="https://c.example/a.jpg",
            lead_alt="The comet",
        )  # fmt: skip
        found = self.call(self.viewer, "GET", path).json()
        self.assertEqual((found["lacks"], found["mapped"], found["description"]), ([], True, told))
        self.assertEqual(found["title"], f"A comet · {self.blog.title}")
        self.assertTrue(found["address"].endswith(f"/blog/meadow/{post.slug}/"))
        Post.objects.filter(pk=post.pk).update(visibility="private")
        found = self.call(self.viewer, "GET", path).json()
        self.assertEqual(([one["lack"] for one in found["lacks"]], found["mapped"]), (["not_public"], False))

    def test_no_campaign_and_no_source_takes_the_address_of_a_screen(self) -> None:
        self.assertEqual(make_campaign(self.blog, "New").slug, "new-2")

    def test_a_proof_lists_items_stages_and_effects(self) -> None:
        document = {**RULES, "sift": {"rules": [{"id": "t", "kind": "terms", "mode": "none", "terms": ["1"]}]}}
        proof = self.call(self.owner, "POST", "/blogs/meadow/campaigns/sky/proof", {"document": document}).json()
        verdicts = {item["title"]: item["verdict"] for item in proof["items"]}
        self.assertEqual(sorted(verdicts.values()), ["hold", "hold", "refused"])
        self.assertEqual([stage["entered"] for stage in proof["stages"]], [3, 3, 2, 2, 2, 2])
        self.assertEqual(proof["rules"]["sift.t"], {"against": 1, "alone": 1, "was_against": 0})

    def test_a_proof_names_only_what_differs_from_the_one_the_asker_has(self) -> None:
        asked = {"document": {**RULES, "sift": {"rules": [{"id": "t", "kind": "terms", "terms": ["field"]}]}}}
        path = "/blogs/meadow/campaigns/sky/proof"
        first = self.call(self.owner, "POST", path, {"document": RULES}).json()
        whole = self.call(self.owner, "POST", path, asked).json()
        partly = self.call(self.owner, "POST", path, {**asked, "known": first["token"]}).json()
        self.assertEqual((whole["differs_from"], partly["differs_from"]), ("", first["token"]))
        before = {row["id"]: row for row in first["items"]}
        self.assertEqual(partly["items"], [row for row in whole["items"] if row != before[row["id"]]])
        self.assertLess(len(partly["items"]), len(whole["items"]))
        fewer = {**asked, "over": {"items": [first["items"][0]["id"]]}, "known": first["token"]}
        other = self.call(self.owner, "POST", path, fewer).json()
        self.assertEqual((other["differs_from"], len(other["items"])), ("", 1))

    def test_a_run_is_asked_for_once(self) -> None:
        path = "/blogs/meadow/campaigns/sky/runs"
        self.assertEqual(self.call(self.owner, "POST", path).json()["state"], "waiting")
        self.assertEqual(self.call(self.owner, "POST", path).status_code, 409)
        self.assertEqual(Run.objects.count(), 2)


class Sources(ApiCase):
    def check(self, *addresses: str) -> list[dict[str, Any]]:
        with patch.object(wiring, "fetcher", return_value=CannedPortal(self.bodies)):
            answer = self.call(self.owner, "POST", "/blogs/meadow/sources/check", {"addresses": addresses})
        result: list[dict[str, Any]] = answer.json()
        return result

    def setUp(self) -> None:
        super().setUp()
        self.bodies: dict[str, bytes | FetchError] = {
            "https://a.example/feed": FEED,
            "https://a.example": b'<html><head><link rel="alternate" type="application/rss+xml" href="/feed" title="All"></head></html>',
            "https://b.example": b"<html><body>no feed here</body></html>",
            "https://c.example": FetchError(FetchCode.TOO_SLOW, "c.example was too slow."),
            "https://plain.example/feed": FetchError(FetchCode.TLS, "no TLS"),
            "http://plain.example/feed": FEED,
            "https://club.example/feed": FEED,
        }

    def test_every_address_gets_a_result_of_its_own(self) -> None:
        found = self.check("https://a.example/feed", "a.example", "b.example", "feed:https://c.example", "c.example")
        self.assertEqual([one["error"] for one in found], ["", "", "page", "too_slow", "too_slow"])
        self.assertEqual((found[0]["format"], found[0]["items"], len(found[0]["samples"])), ("RSS 2.0", 2, 2))
        self.assertEqual(found[0]["fields"]["title"], 2)
        self.assertEqual(found[1]["leads_to"], [{"url": "https://a.example/feed", "title": "All", "format": "RSS"}])
        self.assertIn("names no feed", found[2]["detail"])

    def test_an_address_without_a_scheme_falls_back_to_plain_http(self) -> None:
        self.assertEqual(self.check("plain.example/feed")[0]["url"], "http://plain.example/feed")

    def test_a_known_address_says_by_which_name(self) -> None:
        self.assertEqual(self.check("https://club.example/feed")[0]["known_as"], "Club")

    def test_adding_captures_at_once_and_only_once(self) -> None:
        portal = CannedPortal(self.bodies)
        with patch.object(wiring, "fetcher", return_value=portal):
            body = {"url": "https://a.example/feed", "title": "Über den Hügeln"}
            added = self.call(self.owner, "POST", "/blogs/meadow/new-source", body).json()
            again = self.call(self.owner, "POST", "/blogs/meadow/new-source", body)
        self.assertEqual((added["key"], added["captured"]), ("uber-den-hugeln", 2))
        self.assertEqual(again.status_code, 409)

    def test_a_new_source_gives_an_excerpt_until_somebody_says_what_posts_may_carry(self) -> None:
        with patch.object(wiring, "fetcher", return_value=CannedPortal(self.bodies)):
            body = {"url": "https://a.example/feed", "title": "Unsaid"}
            key = self.call(self.owner, "POST", "/blogs/meadow/new-source", body).json()["key"]
        path = f"/blogs/meadow/sources/{key}"
        unsaid = self.call(self.owner, "GET", path).json()["source"]
        self.assertEqual((unsaid["right"], unsaid["right_said"]), ("excerpt", False))
        together = {"keys": [key], "right": "excerpt", "right_words": unsaid["right_words"]}
        self.assertEqual(
            self.call(self.owner, "POST", "/blogs/meadow/sources-together/rights", together).json()["changed"], 1
        )
        self.assertTrue(self.call(self.owner, "GET", path).json()["source"]["right_said"])
        Source.objects.filter(key=key).update(right_said=False)
        said = self.call(self.owner, "PATCH", path, {"title": "Said", "right": "full", "right_words": 50}).json()
        self.assertEqual((said["right"], said["right_said"]), ("full", True))
        removed = self.call(self.owner, "DELETE", path)
        self.assertEqual(removed.status_code, 204)
        with patch.object(wiring, "fetcher", return_value=CannedPortal(self.bodies)):
            added = self.call(self.owner, "POST", "/blogs/meadow/new-source", {**body, "right": "link"}).json()
        row = Source.objects.get(key=added["key"])
        self.assertEqual((row.right, row.right_said), ("link", True))

    def test_a_removed_source_leaves_its_items_and_frees_its_address(self) -> None:
        self.call(self.owner, "DELETE", "/blogs/meadow/sources/club")
        self.assertEqual(self.call(self.owner, "GET", "/blogs/meadow/sources").json()["total"], 0)
        self.assertEqual(self.source.items.count(), 3)
        with patch.object(wiring, "fetcher", return_value=CannedPortal(self.bodies)):
            added = self.call(
                self.owner, "POST", "/blogs/meadow/new-source", {"url": "https://club.example/feed", "title": "Club"}
            )
        self.assertEqual(added.json()["key"], "club-2")

    def test_reading_now_logs_what_came(self) -> None:
        with patch.object(wiring, "fetcher", return_value=CannedPortal(self.bodies)):
            reading = self.call(self.owner, "POST", "/blogs/meadow/sources/club/read").json()
        self.assertEqual((reading["found"], reading["fresh"]), (2, 2))
        self.assertEqual(self.call(self.owner, "GET", "/blogs/meadow/sources/club").json()["readings"][0]["found"], 2)

    def test_the_list_is_searched_and_sorted(self) -> None:
        make_source(self.blog, "wire")
        self.assertEqual(self.call(self.owner, "GET", "/blogs/meadow/sources?search=WIR").json()["total"], 1)
        rows = self.call(self.owner, "GET", "/blogs/meadow/sources?sort=read").json()["rows"]
        self.assertEqual({row["key"] for row in rows}, {"club", "wire"})
        self.assertEqual(Source.objects.count(), 2)


class Posts(ApiCase):
    def test_the_list_is_narrowed_and_counted(self) -> None:
        self.call(self.owner, "POST", f"/blogs/meadow/posts/{self.post.pk}/state", {"state": "held"})
        page = self.call(self.owner, "GET", "/blogs/meadow/posts?state=held&campaign=sky&source=club").json()
        self.assertEqual((page["total"], page["states"]["published"]), (1, 2))
        self.assertEqual(self.call(self.owner, "GET", "/blogs/meadow/posts?search=number+2").json()["total"], 1)

    def test_a_move_that_may_not_be_is_a_conflict(self) -> None:
        Post.objects.filter(pk=self.post.pk).update(state="gone")
        answer = self.call(self.owner, "POST", f"/blogs/meadow/posts/{self.post.pk}/state", {"state": "draft"})
        self.assertEqual(answer.status_code, 409)

    def test_each_post_leads_to_its_trace(self) -> None:
        decision = self.call(self.owner, "GET", f"/blogs/meadow/posts/{self.post.pk}/decision").json()
        self.assertEqual(decision["trace"][0]["code"], "gathered")
        self.assertEqual((decision["run"], decision["revision"]), (self.first_run.pk, 1))

    def test_a_list_of_posts_needs_no_query_for_each(self) -> None:
        fill(self.source, range(10, 40))
        run(self.campaign)
        client = self.as_(self.owner)
        with self.assertNumQueries(11):
            self.assertEqual(len(client.get("/api/blogs/meadow/posts").json()["rows"]), 33)


class Schema(TestCase):
    def test_the_written_schema_is_current(self) -> None:
        self.assertEqual(SCHEMA.read_text(), schema_text())

    def test_every_operation_has_a_name_of_its_own(self) -> None:
        names = [
            method["operationId"]
            for methods in json.loads(schema_text())["paths"].values()
            for method in methods.values()
        ]
        self.assertEqual(len(names), len(set(names)))


class Connections(TestCase):
    def test_requests_take_connections_from_a_pool_and_give_them_back(self) -> None:
        self.assertEqual(connection.settings_dict["CONN_MAX_AGE"], 0)
        self.assertLessEqual(connection.pool.max_size, 20)
