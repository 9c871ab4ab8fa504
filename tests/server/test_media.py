"""Copies of media: made by a job, shown by the blog, retried, and removed when unused."""

import io
import re
import tempfile
import time
import urllib.request
from datetime import timedelta
from pathlib import Path
from typing import Any
from unittest.mock import patch

from asgiref.sync import async_to_sync
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import AsyncClient, SimpleTestCase, TestCase, override_settings
from glyptarch_core.item import Media, MediaKind, MediaOrigin
from glyptarch_server.accounts.models import User
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.blog_changes import changes
from glyptarch_server.common.problems import Unavailable
from glyptarch_server.config.storage import media_storage
from glyptarch_server.media import actions, queries
from glyptarch_server.media.files import StorageError, address_of
from glyptarch_server.media.lifecycle import PAUSES, CopyState
from glyptarch_server.media.models import Picture, PictureCopy, Recording
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.deletion import remove_old_blogs
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.lifecycle import StopError
from glyptarch_server.tasks.models import Task
from glyptarch_server.wiring import FetchCode, Fetched, FetchError, FetchRequest
from glyptarch_standins.app import World, make_app
from glyptarch_standins.bucket import BUCKET_KEY
from PIL import Image

from tests.served import served
from tests.server.fixtures import (
    NOW,
    CannedPortal,
    carry_kind,
    carry_task,
    fill,
    make_blog,
    make_campaign,
    make_source,
    make_user,
    run,
)

LEAD, SPARE, INSIDE = (f"https://club.example/{name}.jpg" for name in ("lead", "spare", "inside"))
FILM = "https://club.example/film.mp4"


def drawn(colour: str = "navy", width: int = 700) -> bytes:
    file = io.BytesIO()
    Image.new("RGB", (width, 400), colour).save(file, "PNG")
    return file.getvalue()


class SavingPortal(CannedPortal):
    """Writes answers into files as the real fetcher does."""

    def _answer(self, request: FetchRequest) -> Fetched | FetchError:
        answer = super()._answer(request)
        if request.into is not None and isinstance(answer, Fetched):
            request.into.write_bytes(answer.body)
            if request.on_progress is not None:
                request.on_progress(len(answer.body), len(answer.body))
        return answer


class OwnFolder(SimpleTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        # The storage reloads a changed setting.
        self.enterContext(override_settings(MEDIA_ROOT=folder.name))


class MediaCase(OwnFolder, TestCase):
    def setUp(self) -> None:
        super().setUp()
        self.mira = make_user()
        self.blog = make_blog(owner=self.mira)
        self.source = make_source(self.blog)

    def published(self, body: str = "", media: tuple[str, ...] = (), **copies: Any) -> Post:  # noqa: ANN401
        shown = tuple(Media(url=url, kind=MediaKind.PICTURE, origin=MediaOrigin.FEED) for url in media)
        text = f"<p>The dome opens at nine in the evening, and everybody may come.</p>{body}"
        fill(self.source, [1], media=shown, body=text)
        settings = {"pictures": True, **copies}
        run(make_campaign(self.blog, shape={"copies": settings}))
        return Post.objects.latest("pk")

    def copy(self, bodies: dict[str, Any]) -> int:
        before = PictureCopy.objects.filter(state="kept").count()
        actions.take_up_due(now=NOW)
        carry_kind("pictures", CannedPortal(bodies))
        return PictureCopy.objects.filter(state="kept").count() - before

    def page(self, post: Post) -> str:
        return self.client.get(f"/blog/meadow/{post.slug}/").content.decode()


class Pictures(MediaCase):
    def test_a_post_shows_copies_and_nothing_from_elsewhere(self) -> None:
        post = self.published(f'<p><img src="{INSIDE}" alt="Inside"></p>', (LEAD,))
        self.assertEqual(Task.objects.filter(kind="pictures").count(), 1)
        before = self.page(post)
        self.assertNotIn("club.example/lead", before)
        self.assertEqual(self.copy({LEAD: drawn(), INSIDE: drawn("teal")}), 2)
        after = self.page(post)
        self.assertNotIn("club.example/lead", after)
        self.assertEqual(after.count('type="image/webp"'), 2)
        self.assertIn('width="700" height="400"', after)
        self.assertIn("/media/pictures/", self.client.get("/blog/meadow/").content.decode())

    def test_what_is_linked_is_not_copied(self) -> None:
        post = self.published(media=(LEAD,), pictures=False)
        self.assertEqual(PictureCopy.objects.count(), 0)
        self.assertIn(LEAD, self.page(post))

    def test_a_source_that_allows_an_excerpt_is_not_copied(self) -> None:
        type(self.source).objects.filter(pk=self.source.pk).update(right="excerpt")
        post = self.published(media=(LEAD,))
        self.assertFalse(post.copies_pictures)
        self.assertEqual(PictureCopy.objects.count(), 0)

    def test_where_the_lead_cannot_be_had_the_next_choice_stands_in_and_it_is_tried_again(self) -> None:
        post = self.published(media=(LEAD, SPARE))
        gone = FetchError(FetchCode.NOT_FOUND, "It does not exist there (404).")
        self.copy({LEAD: gone, SPARE: drawn("teal")})
        row = PictureCopy.objects.get(url=LEAD)
        self.assertEqual((row.state, row.fault, row.next_at), ("failed", "not_found", NOW + PAUSES[0]))
        self.assertIn("/media/pictures/", self.page(post))
        PictureCopy.objects.filter(pk=row.pk).update(next_at=NOW)
        self.copy({LEAD: drawn("red")})
        lead = Picture.objects.get(copies__url=LEAD)
        self.assertIn(lead.hash, self.page(post))

    def test_it_is_given_up_after_the_last_try_and_tried_when_asked(self) -> None:
        self.published(media=(LEAD,))
        for _ in range(len(PAUSES) + 1):
            PictureCopy.objects.update(next_at=NOW)
            self.copy({LEAD: b"<html>Sign in</html>"})
        row = PictureCopy.objects.get()
        self.assertEqual((row.state, row.fault, row.next_at), (CopyState.GIVEN_UP.value, "no_picture", None))
        self.client.force_login(self.mira)
        said = self.client.post("/api/blogs/meadow/picture-copies/retry").json()
        self.assertEqual(said["states"]["waiting"], 1)
        PictureCopy.objects.update(next_at=NOW)
        self.assertEqual(self.copy({LEAD: drawn()}), 1)

    def test_the_same_bytes_are_kept_once(self) -> None:
        self.published(f'<p><img src="{INSIDE}"></p>', (LEAD,))
        self.copy({LEAD: drawn(), INSIDE: drawn()})
        self.assertEqual(Picture.objects.count(), 1)
        self.assertEqual(Picture.objects.get().copies.count(), 2)

    def test_copies_go_when_nothing_shows_them_and_what_people_gave_stays(self) -> None:
        post = self.published(media=(LEAD,))
        self.copy({LEAD: drawn()})
        upload = actions.keep_upload(self.blog, "moon.png", drawn("white"), now=NOW)
        later = NOW + timedelta(days=30)
        self.assertEqual(actions.remove_unused(now=later), 0)
        post.delete()
        self.assertEqual(actions.remove_unused(now=later), 1)
        self.assertEqual([picture.pk for picture in Picture.objects.all()], [upload.pk])
        self.assertEqual(len({path.parent for path in self.folder.rglob("*.webp")}), 1)

    def test_a_list_asks_for_the_copies_of_all_its_posts_at_once(self) -> None:
        fill(self.source, range(2, 9), media=(Media(url=LEAD, kind=MediaKind.PICTURE, origin=MediaOrigin.FEED),))
        self.published(media=(LEAD,))
        self.copy({LEAD: drawn()})
        self.addCleanup(changes.begin_anew, listening=False)
        changes.begin_anew()
        self.client.get("/blog/meadow/")
        with self.assertNumQueries(5):
            self.client.get("/blog/meadow/")
        post = Post.objects.latest("pk")
        with self.assertNumQueries(10):
            self.page(post)


class OwnPictures(MediaCase):
    def setUp(self) -> None:
        super().setUp()
        self.client.force_login(self.mira)

    def add(self, data: bytes, name: str = "moon.png") -> Any:  # noqa: ANN401
        return self.client.post("/api/blogs/meadow/pictures", {"file": SimpleUploadedFile(name, data)})

    def test_a_picture_is_added_named_found_and_removed(self) -> None:
        upload = self.add(drawn()).json()
        self.assertEqual((upload["name"], upload["uploaded"], upload["width"]), ("moon.png", True, 700))
        what = {"name": "The moon", "alt": "Half a moon", "credit": "M. Vale", "labels": ["sky", "sky", "night"]}
        changed = self.client.put(
            f"/api/blogs/meadow/pictures/{upload['id']}",
            {**what, "focus_x": 0.2, "focus_y": 0.9},
            content_type="application/json",
        ).json()
        self.assertEqual((changed["labels"], changed["focus_x"]), (["sky", "night"], 0.2))
        found = self.client.get("/api/blogs/meadow/pictures?search=half&label=night&uploaded=true").json()
        self.assertEqual((found["total"], found["labels"]), (1, ["night", "sky"]))
        self.assertEqual(self.client.delete(f"/api/blogs/meadow/pictures/{upload['id']}").status_code, 204)
        self.assertEqual(list(self.folder.rglob("*.webp")), [])

    def test_what_cannot_be_shown_is_refused_in_plain_words(self) -> None:
        answer = self.add(b"<svg xmlns='http://www.w3.org/2000/svg'/>", "logo.svg")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("can hold scripts", answer.json()["detail"])

    def test_one_that_posts_show_is_not_removed(self) -> None:
        self.published(media=(LEAD,))
        self.copy({LEAD: drawn()})
        picture = Picture.objects.get()
        answer = self.client.delete(f"/api/blogs/meadow/pictures/{picture.pk}")
        self.assertEqual(answer.status_code, 409)
        uses = self.client.get(f"/api/blogs/meadow/pictures/{picture.pk}/posts").json()
        self.assertEqual([use["id"] for use in uses], [Post.objects.get().pk])

    def test_lead_images_are_taken_from_the_pictures_of_a_label(self) -> None:
        urls = []
        for colour in ("navy", "teal", "black"):
            upload = self.add(drawn(colour), f"{colour}.png").json()
            labels = [] if colour == "black" else ["night"]
            what = {"name": colour, "alt": colour, "labels": labels, "focus_x": 0.5, "focus_y": 0.5}
            self.client.put(f"/api/blogs/meadow/pictures/{upload['id']}", what, content_type="application/json")
            urls.append(upload["url"])
        fill(self.source, range(1, 9))
        run(make_campaign(self.blog, shape={"lead": {"order": ["blog"], "pool": "night"}}))
        self.assertEqual(set(Post.objects.values_list("lead_url", flat=True)), set(urls[:2]))
        self.assertEqual(set(Post.objects.values_list("lead_alt", flat=True)), {"navy", "teal"})

    def test_a_picture_of_the_library_leads_with_its_focus(self) -> None:
        upload = self.add(drawn()).json()
        focus = {"name": "Moon", "focus_x": 0.25, "focus_y": 0.75, "credit": "Photo: M. Vale"}
        self.client.put(f"/api/blogs/meadow/pictures/{upload['id']}", focus, content_type="application/json")
        fill(self.source, [1])
        lead = {"order": ["blog"], "pictures": [{"url": upload["url"], "alt": "The moon"}]}
        run(make_campaign(self.blog, shape={"lead": lead}))
        page = self.page(Post.objects.get())
        self.assertIn("object-position: 25% 75%", page)
        self.assertIn('alt="The moon"', page)
        self.assertIn("Photo: M. Vale", page)


class Files(OwnFolder):
    """Kept files over HTTP, by the asynchronous way that the server uses."""

    def setUp(self) -> None:
        super().setUp()
        folder = self.folder / "recordings" / "1" / "aa"
        folder.mkdir(parents=True)
        self.data = bytes(range(256)) * 4096
        self.name = "a" * 64 + ".mp4"
        (folder / self.name).write_bytes(self.data)

    def get(self, name: str = "", **headers: str) -> tuple[int, dict[str, str], bytes]:
        async def ask() -> tuple[int, dict[str, str], bytes]:
            answer = await AsyncClient().get(f"/media/recordings/1/aa/{name or self.name}", headers=headers)
            streamed = getattr(answer, "streaming", False)
            body = b"".join([piece async for piece in answer]) if streamed else answer.content
            return answer.status_code, dict(answer.headers), body

        return async_to_sync(ask)()

    def test_the_whole_file_comes_with_its_kind_and_may_be_kept(self) -> None:
        status, headers, body = self.get()
        self.assertEqual((status, body == self.data), (200, True))
        self.assertEqual((headers["Content-Type"], headers["Accept-Ranges"]), ("video/mp4", "bytes"))
        self.assertEqual(headers["X-Content-Type-Options"], "nosniff")
        self.assertIn("immutable", headers["Cache-Control"])

    def test_parts_come_as_they_are_asked_for(self) -> None:
        size = len(self.data)
        cases = {
            "bytes=0-99": (0, 100),
            "bytes=1000000-": (1_000_000, size),
            "bytes=-500": (size - 500, size),
            "bytes=5-99999999": (5, size),
        }
        for asked, (first, end) in cases.items():
            status, headers, body = self.get(Range=asked)
            self.assertEqual((status, body == self.data[first:end]), (206, True), asked)
            self.assertEqual(headers["Content-Range"], f"bytes {first}-{end - 1}/{size}")

    def test_a_part_beyond_the_end_is_not_satisfiable_and_nonsense_is_left_alone(self) -> None:
        status, headers, _ = self.get(Range="bytes=99999999-")
        self.assertEqual((status, headers["Content-Range"]), (416, f"bytes */{len(self.data)}"))
        for nonsense in ("bytes=-", "bytes=0-1,5-6", "lines=1-2"):
            self.assertEqual(self.get(Range=nonsense)[0], 200)

    def test_only_kept_files_are_served(self) -> None:
        (self.folder / "secret.txt").write_text("nothing to see")
        for name in ("../../../secret.txt", "%2e%2e/%2e%2e/%2e%2e/secret.txt", "b" * 64 + ".mp4", "x.html"):
            self.assertEqual(self.get(name)[0], 404)


class Recordings(MediaCase):
    def film(self, body: bytes | FetchError, megabytes: int = 5) -> Recording:
        self.published(f'<video src="{FILM}"></video>', recordings=True, most_mb=megabytes)
        recording = Recording.objects.get()
        carry_kind("recording", SavingPortal({FILM: body}))
        recording.refresh_from_db()
        return recording

    def test_a_film_is_copied_and_plays_from_here(self) -> None:
        body = b"\x00\x00\x00\x20ftypisom" + bytes(5000)
        recording = self.film(body)
        self.assertEqual((recording.state, recording.size, recording.mime), ("kept", len(body), "video/mp4"))
        page = self.page(Post.objects.get())
        self.assertIn(f"/media/{recording.file}", page)
        self.assertNotIn(FILM, page)

    def test_what_is_no_film_is_not_kept_and_the_original_stays(self) -> None:
        recording = self.film(b"<html>Sign in</html>")
        self.assertEqual((recording.state, recording.fault), ("failed", "no_recording"))
        self.assertIn(FILM, self.page(Post.objects.get()))

    def test_it_is_stopped_and_begun_again_by_hand(self) -> None:
        self.published(f'<video src="{FILM}"></video>', recordings=True)
        recording = Recording.objects.get()
        self.client.force_login(self.mira)
        stopped = self.client.post(f"/api/blogs/meadow/recordings/{recording.pk}/stop").json()
        self.assertEqual((stopped["state"], stopped["fault"]), ("given_up", "stopped"))
        again = self.client.post(f"/api/blogs/meadow/recordings/{recording.pk}/retry").json()
        self.assertEqual(again["state"], "waiting")
        listed = self.client.get("/api/blogs/meadow/recordings").json()
        self.assertEqual((listed["total"], listed["rows"][0]["shown_by"]), (1, 1))

    def test_a_download_ends_soon_after_it_was_stopped(self) -> None:
        self.published(f'<video src="{FILM}"></video>', recordings=True)
        task = Task.objects.get(kind="recording")

        told: list[bool] = []

        class Endless(SavingPortal):
            def _answer(self, request: FetchRequest) -> Fetched | FetchError:
                assert request.on_progress is not None
                for _ in range(2000):
                    if not request.on_progress(1000, 1_000_000):
                        told.append(True)
                        return FetchError(FetchCode.CUT_OFF, "It was stopped.")
                    time.sleep(0.01)
                raise AssertionError("nobody has stopped it")

        with (
            patch.object(actions, "_SECONDS_BETWEEN_LOOKS", 0.1),
            patch.object(Carrier, "report", side_effect=StopError),
        ):
            carry_task(task.pk, Endless({FILM: b""}))
        task.refresh_from_db()
        recording = Recording.objects.get()
        self.assertEqual((task.state, recording.state, recording.fault), ("stopped", "given_up", "stopped"))
        self.assertEqual(told, [True], "the fetch itself was told to end")

    def test_it_asks_for_no_more_than_the_campaign_allows(self) -> None:
        self.published(f'<video src="{FILM}"></video>', recordings=True, most_mb=7)
        portal = SavingPortal({FILM: b"OggS\x00"})
        carry_kind("recording", portal)
        self.assertEqual(portal.asked[0].most_bytes, 7 << 20)

    def test_it_goes_when_no_post_plays_it(self) -> None:
        recording = self.film(b"OggS\x00" + bytes(100))
        self.assertEqual(len(list(self.folder.rglob("*.ogg"))), 1)
        Post.objects.all().delete()
        actions.remove_unused(now=NOW + timedelta(days=30))
        self.assertFalse(Recording.objects.filter(pk=recording.pk).exists())
        self.assertEqual(list(self.folder.rglob("*.ogg")), [])

    def test_a_deleted_blog_leaves_no_file(self) -> None:
        self.film(b"OggS\x00" + bytes(100))
        actions.keep_upload(self.blog, "moon.png", drawn(), now=NOW)
        Blog.objects.filter(pk=self.blog.pk).update(removed_at=NOW)
        remove_old_blogs(now=NOW + timedelta(days=31))
        self.assertEqual([path for path in self.folder.rglob("*") if path.is_file()], [])
        self.assertFalse(Blog.objects.exists())


class Roles(MediaCase):
    def test_a_stranger_and_another_blog_see_nothing(self) -> None:
        picture = actions.keep_upload(self.blog, "moon.png", drawn(), now=NOW)
        other = make_user("edda")
        make_blog("other", other)
        self.client.force_login(other)
        for address in ("pictures", f"pictures/{picture.pk}/posts", "recordings", "picture-copies"):
            self.assertEqual(self.client.get(f"/api/blogs/meadow/{address}").status_code, 404)
        self.assertEqual(queries.copies_of(self.blog.pk + 1, [LEAD]), {})


class InABucket(TestCase):
    """The same in a bucket, over HTTP."""

    def setUp(self) -> None:
        self.world = World()
        opened = served(make_app(self.world))
        self.endpoint = f"http://{opened.__enter__()}/s3"
        self.addCleanup(opened.__exit__, None, None, None)
        self.blog = make_blog(owner=make_user())
        self.use()

    def use(self, **more: str) -> None:
        named = {"BUCKET": "meadow", "ENDPOINT": self.endpoint, "KEY": BUCKET_KEY, "SECRET": "s", **more}
        storage = media_storage({f"GLYPTARCH_S3_{name}": value for name, value in named.items()})
        self.enterContext(override_settings(STORAGES={**settings.STORAGES, "default": storage}))

    def published(self, **copies: Any) -> Post:  # noqa: ANN401
        shown = (Media(url=LEAD, kind=MediaKind.PICTURE, origin=MediaOrigin.FEED),)
        body = f'<p>The dome opens at nine in the evening, and everybody may come.</p><video src="{FILM}"></video>'
        fill(make_source(self.blog), [1], media=shown, body=body)
        run(make_campaign(self.blog, shape={"copies": {"pictures": True, **copies}}))
        return Post.objects.latest("pk")

    def page(self, post: Post) -> str:
        return self.client.get(f"/blog/meadow/{post.slug}/").content.decode()

    def fetched(self, url: str, **headers: str) -> tuple[int, str, bytes]:
        with urllib.request.urlopen(urllib.request.Request(url, headers=headers)) as answer:  # noqa: S310 - loopback
            return answer.status, answer.headers["Content-Type"], answer.read()

    def test_copies_lie_in_the_bucket_and_readers_have_them_from_there(self) -> None:
        post = self.published()
        # The result must not depend on the machine's MIME types.
        with patch("storages.backends.s3.mimetypes.guess_type", return_value=(None, None)):
            carry_kind("pictures", CannedPortal({LEAD: drawn()}))
        self.assertEqual({bucket for bucket, _ in self.world.buckets.files}, {"meadow"})
        found = set(re.findall(rf"{self.endpoint}/meadow/pictures/[^\s\"',]+", self.page(post)))
        self.assertGreaterEqual(len(found), 3)
        for url in found:
            status, kind, body = self.fetched(url)
            self.assertEqual((status, kind), (200, "image/webp" if url.endswith(".webp") else "image/jpeg"))
            self.assertGreater(Image.open(io.BytesIO(body)).width, 0)
        kept = next(iter(self.world.buckets.files.values()))
        self.assertIn("immutable", kept.headers["Cache-Control"])

    def test_a_film_of_many_megabytes_goes_up_in_parts_and_plays_from_there(self) -> None:
        post = self.published(recordings=True, most_mb=50)
        body = b"\x00\x00\x00\x20ftypisom" + bytes(range(256)) * (80 << 10)
        recording = Recording.objects.get()
        carry_kind("recording", SavingPortal({FILM: body}))
        recording.refresh_from_db()
        self.assertEqual(self.world.buckets.files["meadow", recording.file].body, body)
        url = f"{self.endpoint}/meadow/{recording.file}"
        self.assertIn(url, self.page(post))
        self.assertEqual(self.fetched(url, Range="bytes=4-11"), (206, "video/mp4", b"ftypisom"))

    def test_under_another_host_where_one_is_named(self) -> None:
        self.use(PUBLIC="media.example.org")
        picture = actions.keep_upload(self.blog, "moon.png", drawn(), now=NOW)
        self.assertTrue(address_of(picture, "320.webp").startswith("http://media.example.org/pictures/"))

    def test_what_is_removed_is_gone_from_the_bucket(self) -> None:
        picture = actions.keep_upload(self.blog, "moon.png", drawn(), now=NOW)
        self.assertGreater(len(self.world.buckets.files), 3)
        actions.keep_upload(self.blog, "again.png", drawn(), now=NOW)
        names = set(self.world.buckets.files)
        self.assertTrue(all(picture.hash in name for _, name in names), names)
        Blog.objects.filter(pk=self.blog.pk).update(removed_at=NOW)
        remove_old_blogs(now=NOW + timedelta(days=31))
        self.assertEqual(self.world.buckets.files, {})

    def test_while_the_service_is_down_the_post_is_there_and_its_pictures_come_later(self) -> None:
        post = self.published()
        portal = CannedPortal({LEAD: drawn()})
        now = NOW
        for fault in ("broken", "full"):
            self.world.buckets.fault = fault
            with self.assertLogs("glyptarch.media", "ERROR"):
                actions.take_up_due(now=now)
                carry_kind("pictures", portal, at=lambda: now)  # noqa: B023
            self.assertIn("The dome opens", self.page(post))
            self.assertEqual(self.world.buckets.files, {})
            copy = PictureCopy.objects.get()
            self.assertEqual((copy.state, copy.fault), ("failed", "storage"))
            now = copy.next_at or NOW
        self.world.buckets.fault = ""
        actions.take_up_due(now=now)
        carry_kind("pictures", portal, at=lambda: now)
        self.assertIn(f"{self.endpoint}/meadow/pictures/", self.page(post))

    def test_a_person_is_told_that_the_storage_does_not_answer_and_nothing_is_half_done(self) -> None:
        picture = actions.keep_upload(self.blog, "moon.png", drawn(), now=NOW)
        self.world.buckets.fault = "broken"
        with self.assertLogs("glyptarch.media", "ERROR"):
            for act in (
                lambda: actions.keep_upload(self.blog, "sun.png", drawn("gold"), now=NOW),
                lambda: actions.remove_picture(picture),
            ):
                with self.assertRaisesRegex(Unavailable, "does not answer, or is full"):
                    act()
        self.assertEqual(list(Picture.objects.values_list("name", flat=True)), ["moon.png"])
        self.world.buckets.fault = ""
        actions.remove_picture(picture)
        self.assertEqual(self.world.buckets.files, {})

    def test_a_film_that_cannot_be_kept_is_tried_again(self) -> None:
        self.published(recordings=True, most_mb=5)
        recording, portal = Recording.objects.get(), SavingPortal({FILM: b"\x00\x00\x00\x20ftypisom" + bytes(5000)})
        self.world.buckets.fault = "full"
        with self.assertLogs("glyptarch.media", "ERROR"):
            carry_kind("recording", portal)
        recording.refresh_from_db()
        self.assertEqual((recording.state, recording.fault, recording.file), ("failed", "storage", ""))
        self.world.buckets.fault, at = "", recording.next_at
        assert at is not None
        actions.take_up_due(now=at)
        carry_kind("recording", portal, at=lambda: at)
        recording.refresh_from_db()
        self.assertEqual((recording.state, recording.fault), ("kept", ""))

    def test_the_api_answers_503_with_what_to_do(self) -> None:
        self.world.buckets.fault = "broken"
        self.client.force_login(User.objects.get())
        upload = {"file": SimpleUploadedFile("moon.png", drawn(), "image/png")}
        with self.assertLogs("glyptarch.media", "ERROR"):
            answer = self.client.post("/api/blogs/meadow/pictures", upload)
        self.assertEqual((answer.status_code, answer["Content-Type"]), (503, "application/problem+json"))
        self.assertIn("Try again later", answer.json()["detail"])

    def test_unused_copies_stay_known_until_their_files_can_go(self) -> None:
        self.published()
        carry_kind("pictures", CannedPortal({LEAD: drawn()}))
        PictureCopy.objects.all().delete()
        late = NOW + timedelta(days=30)
        self.world.buckets.fault = "broken"
        with self.assertRaises(StorageError):
            actions.remove_unused(now=late)
        self.assertEqual(Picture.objects.count(), 1)
        self.world.buckets.fault = ""
        self.assertEqual(actions.remove_unused(now=late), 1)
        self.assertEqual((Picture.objects.count(), self.world.buckets.files), (0, {}))


class Storage(SimpleTestCase):
    def test_a_bucket_is_named_by_the_environment(self) -> None:
        self.assertIn("FileSystem", media_storage({})["BACKEND"])
        named = {"GLYPTARCH_S3_BUCKET": "b", "GLYPTARCH_S3_ENDPOINT": "https://s3.example"}
        with self.assertRaisesRegex(ValueError, "GLYPTARCH_S3_KEY, GLYPTARCH_S3_SECRET"):
            media_storage(named)
        whole = media_storage({**named, "GLYPTARCH_S3_KEY": "k", "GLYPTARCH_S3_SECRET": "s"})
        self.assertEqual(whole["OPTIONS"]["bucket_name"], "b")
