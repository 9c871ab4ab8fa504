"""Edits survive slow answers, a lost network, reloads and killed browsers."""

import os
import random
import signal
import subprocess
import tempfile
from collections.abc import Callable
from typing import NamedTuple

from glyptarch_server.blogs.models import Blog, WordList
from glyptarch_server.pages.models import Reader
from glyptarch_server.posts.models import Post
from glyptarch_server.sources.models import PlatformAsk
from playwright.sync_api import Locator, Page, Route, expect, sync_playwright

from tests.browser.driver import BROWSER, FLAGS, Traffic, opened
from tests.browser.live import LiveCase

_STEPS = 20
_IN_A_DRAFT = """text => new Promise((resolve, reject) => {
    const request = indexedDB.open("glyptarch");
    request.onerror = () => reject(request.error);
    request.onsuccess = () => {
        const all = request.result.transaction("drafts").objectStore("drafts").getAll();
        all.onsuccess = () => resolve(all.result.some(({ draft }) => JSON.stringify(draft).includes(text)));
    };
})"""


def draft_is_kept(page: Page, text: str) -> None:
    """Wait until a draft with a text is on the disk."""
    for _ in range(200):
        if page.evaluate(_IN_A_DRAFT, text):
            return
        page.wait_for_timeout(50)
    raise AssertionError(f"No draft holds “{text}”.")


class Editor(NamedTuple):
    """A screen with a text that is edited."""

    path: str
    field: Callable[[Page], Locator]
    save: str
    saved: Callable[[], str]
    # What opens the form on the screen, where it is not there at once.
    open: str = ""


class Walk:
    """Twenty things that happen to a person who edits a text, at random.

    ``shows`` opens the editor and returns its field.
    """

    def __init__(self, page: Page, editor: Editor, shows: Callable[[Page, Editor], Locator], seed: str) -> None:
        self.page, self.editor, self.shows = page, editor, shows
        self.traffic = Traffic(page)
        self.chance = random.Random(seed)  # noqa: S311 - a walk that can be repeated
        self.typed: list[str] = []
        self.field = shows(page, editor)

    def takes_place(self) -> None:
        steps = [self.types, self.types, self.types, self.undoes_and_redoes, self.saves, self.saves_slowly]
        steps += [self.loses_the_network, self.reloads]
        for _ in range(_STEPS):
            if not self.field.is_visible():
                self.shows(self.page, self.editor)
            self.chance.choice(steps)()
        self.reloads()
        self.saves()
        self.traffic.settle()

    def types(self) -> None:
        word = f"w{len(self.typed)}x"
        self.typed.append(word)
        self.field.press("Control+End")
        self.field.press_sequentially(f" {word}")

    def undoes_and_redoes(self) -> None:
        if self.typed:
            self.field.press("Control+z")
            self.field.press("Control+y")

    def saves(self, *, online: bool = True) -> None:
        button = self.page.get_by_role("button", name=self.editor.save, exact=True)
        if button.is_enabled():
            button.click()
            if self.editor.open and online:
                # Such a form closes.
                expect(self.field).to_be_hidden()

    def saves_slowly(self) -> None:
        def slowly(route: Route) -> None:
            self.page.wait_for_timeout(300)
            route.continue_()

        self.page.route("**/api/blogs/**", slowly, times=1)
        self.saves()
        if not self.editor.open:
            self.types()

    def loses_the_network(self) -> None:
        self.page.context.set_offline(True)
        self.saves(online=False)
        self.types()
        self.page.context.set_offline(False)
        # What was not saved is sent again by itself.
        self.traffic.settle()

    def reloads(self) -> None:
        self.traffic.settle()
        unsaved = self.page.get_by_role("button", name=self.editor.save, exact=True).is_enabled()
        if unsaved and self.typed:
            draft_is_kept(self.page, self.typed[-1])
        self.shows(self.page, self.editor)


class Edits(LiveCase):
    def setUp(self) -> None:
        super().setUp()
        self.post = Post.objects.filter(blog__slug="dark-meadow", state="published").latest("date")
        reader, words = Reader.objects.all()[0], WordList.objects.all()[0]
        asked = PlatformAsk.objects.exclude(search_words=[]).select_related("source").order_by("pk")[0]
        self.editors = {
            "post": Editor(
                f"posts/{self.post.pk}/edit",
                lambda page: page.get_by_label("Excerpt"),
                "Save",
                lambda: Post.objects.get(pk=self.post.pk).excerpt,
            ),
            "settings": Editor(
                "settings",
                lambda page: page.get_by_label("Tagline"),
                "Save",
                lambda: Blog.objects.get(slug="dark-meadow").tagline,
            ),
            "page reader": Editor(
                f"readers/{reader.key}",
                lambda page: page.get_by_label("Name", exact=True),
                "Save",
                lambda: Reader.objects.get(pk=reader.pk).name,
            ),
            "word list": Editor(
                "word-lists",
                lambda page: page.get_by_label("Terms"),
                "Keep the list",
                lambda: " ".join(WordList.objects.get(pk=words.pk).words),
                "Edit",
            ),
            "what a source asks for": Editor(
                f"sources/{asked.source.key}",
                lambda page: page.get_by_label("Search words, line 1"),
                "Save",
                lambda: PlatformAsk.objects.get(pk=asked.pk).search_words[0]["text"],
            ),
        }

    def desk(self, path: str) -> str:
        return f"http://127.0.0.1:{self.port}/desk/dark-meadow/{path}"

    def shows(self, page: Page, editor: Editor) -> Locator:
        """Open an editor, and wait for the draft of before."""
        page.goto(self.desk(editor.path))
        if editor.open:
            page.get_by_role("button", name=editor.open, exact=True).first.click()
        field = editor.field(page)
        expect(field).to_be_visible()
        Traffic(page).settle()
        return field

    def test_a_walk_over_each_editor_loses_and_doubles_nothing(self) -> None:
        for name, editor in self.editors.items():
            with self.subTest(name), opened() as (page, _troubles):
                page.on("dialog", lambda dialog: dialog.accept())
                self.signs_in(page)
                walk = Walk(page, editor, self.shows, name)
                walk.takes_place()
                there = editor.saved()
                self.assertEqual({word: there.count(word) for word in walk.typed}, dict.fromkeys(walk.typed, 1), there)

    def test_drafts_belong_to_their_tabs_and_outlive_the_browser(self) -> None:
        self.keeps_the_drafts_of_tabs_apart(self.editors["post"])
        self.outlives_a_killed_browser(self.editors["settings"])

    def keeps_the_drafts_of_tabs_apart(self, editor: Editor) -> None:
        with opened() as (page, troubles):
            self.signs_in(page)
            field = self.shows(page, editor)
            field.fill("Typed in the first tab.")
            draft_is_kept(page, "Typed in the first tab.")
            second = page.context.new_page()
            other = self.shows(second, editor)
            expect(other).not_to_have_value("Typed in the first tab.")
            second.close()
            page.on("dialog", lambda dialog: dialog.accept())
            page.reload()
            expect(editor.field(page)).to_have_value("Typed in the first tab.")
            expect(page.get_by_text("They are back, from a draft")).to_be_visible()
            # Closed, its draft is there for the next.
            draft_is_kept(page, "Typed in the first tab.")
            third = page.context.new_page()
            page.close(run_before_unload=False)
            expect(self.shows(third, editor)).to_have_value("Typed in the first tab.")
        self.assertEqual(troubles, [])

    def outlives_a_killed_browser(self, editor: Editor) -> None:
        with tempfile.TemporaryDirectory() as folder, sync_playwright() as play:

            def start() -> Page:
                context = play.chromium.launch_persistent_context(folder, executable_path=BROWSER, args=FLAGS)
                page = context.pages[0]
                page.set_default_timeout(20_000)
                return page

            page = start()
            self.signs_in(page)
            self.shows(page, editor).fill("Typed before the end.")
            draft_is_kept(page, "Typed before the end.")
            found = subprocess.run(
                ["pgrep", "-f", f"user-data-dir={folder}"], capture_output=True, text=True, check=True
            )
            for number in found.stdout.split():
                os.kill(int(number), signal.SIGKILL)
            page = start()
            page.goto(self.desk("today"))
            password = page.get_by_label("Password", exact=True)
            expect(password.or_(page.get_by_role("navigation", name="Sections")).first).to_be_visible()
            if password.is_visible():
                self.signs_in(page)
            expect(self.shows(page, editor)).to_have_value("Typed before the end.")
            page.context.close()
