"""Each kind of button and link on each screen, tried as an owner, a reviewer and a viewer.

What somebody may not do is not offered to them: nothing they press or follow is answered with an error.
"""

import re
from http import HTTPStatus
from urllib.parse import parse_qs, urlsplit

from django.test import override_settings
from glyptarch_server.accounts.actions import ensure_user
from glyptarch_server.blogs.actions import add_member
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.roles import Role
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.models import Run
from playwright.sync_api import Page, Response
from playwright.sync_api import TimeoutError as TooSlow

from tests.browser.driver import Traffic, moves_to, opened
from tests.browser.live import PASSWORD, LiveCase

BENCH = "campaigns/comets-meteor-showers"
_NOT_PRESSED = re.compile("^Download")
"""What fetches a file."""
_BUTTONS = "main button:visible:enabled"
_KINDS = """all => all.map(one => {
    const name = (one.getAttribute("aria-label") || one.innerText || one.title).trim();
    return name && `${name.split(/\\s/)[0]}|${one.getAttribute("role") || ""}|${one.className}`;
})"""
_LINKS = 'a[href^="/desk/"]:visible, a[href^="/blog/"]:visible'


def _kind_of(link: str) -> tuple[str, ...]:
    """Return what links to like places have in common: the screen, the depth, and what is asked."""
    parts = urlsplit(link)
    first, *rest = parts.path.strip("/").split("/")
    return (first, *rest[1:2], str(len(rest)), *sorted(parse_qs(parts.query)))


class Roles(LiveCase):
    # A walk takes minutes: it names everything that went wrong.
    maxDiff = None

    def setUp(self) -> None:
        super().setUp()
        self.blog = Blog.objects.get(slug="dark-meadow")
        run, post = Run.objects.filter(campaign__blog=self.blog).latest("pk"), Post.objects.filter(state="held")[0]
        self.paths = (
            "today", "campaigns", "runs", "reads", f"runs/{run.pk}", "decisions", "posts", f"posts/{post.pk}", "comments", "sources",
            "sources/meadowlark-club", "sources/films-from-the-ridge", "review", "word-lists", "names/category", "pictures",
            "recordings", "connections", "readers", "readers/observatory-bulletin", "takedowns", "people", "account", "api",
            f"{BENCH}/replay", BENCH,
        )  # fmt: skip

    def test_a_viewer_is_offered_nothing_that_is_refused(self) -> None:
        self.presses_everything_as(Role.VIEWER)

    def test_a_reviewer_is_offered_nothing_that_is_refused(self) -> None:
        post = Post.objects.filter(state="held")[0]
        # Elsewhere a reviewer sees what a viewer sees.
        self.paths = ("review", "posts", f"posts/{post.pk}", "comments", "today", "people", BENCH)
        self.presses_everything_as(Role.REVIEWER)

    def test_an_owner_is_answered_wherever_they_press(self) -> None:
        self.paths = ("settings", "look", "sources/add", "campaigns/new", "posts/new", *self.paths)
        # A form that is sent empty says what it lacks.
        self.presses_everything_as(Role.OWNER, answered=(422,))

    def presses_everything_as(self, role: Role, *, answered: tuple[int, ...] = ()) -> None:
        # The server checks passwords as in production, not as tests do.
        with override_settings(PASSWORD_HASHERS=["django.contrib.auth.hashers.PBKDF2PasswordHasher"]):
            user = ensure_user(f"a-{role.value}", PASSWORD, full_name=role.label)
        add_member(self.blog, user, role)
        with opened() as (page, troubles):
            refused: list[str] = []
            page.on("response", lambda answer: refused.extend(_refusal(answer, answered)))
            page.on("dialog", lambda dialog: dialog.accept())
            traffic = Traffic(page)
            self.signs_in(page, user.username)
            self.followed = set[tuple[str, ...]]()
            wrong = [fault for path in self.paths for fault in self.presses_all(page, traffic, path, refused, troubles)]
        expected = tuple(f"status of {status} " for status in answered)
        self.assertEqual([fault for fault in wrong if not any(words in fault for words in expected)], [])

    def presses_all(
        self, page: Page, traffic: Traffic, path: str, refused: list[str], troubles: list[str]
    ) -> list[str]:
        """Press each kind of button on a screen. Return what went wrong, with what was pressed."""
        address = f"http://127.0.0.1:{self.port}/desk/dark-meadow/{path}"
        wrong, pressed, is_fresh = self.follows_links(page, traffic, address, refused, troubles), set[str](), False
        while True:
            if urlsplit(page.url).path != urlsplit(address).path:
                self.goes_back(page, traffic, address)
            # Buttons of the rows of a list look alike and begin with one word.
            kinds = page.eval_on_selector_all(_BUTTONS, _KINDS)
            place = next((place for place, kind in enumerate(kinds) if kind and kind not in pressed), None)
            if place is None and is_fresh:
                return wrong
            is_fresh = place is None
            if place is None:
                # What was pressed may have taken other buttons away.
                self.settles(page, traffic, address)
                continue
            pressed.add(kinds[place])
            if _NOT_PRESSED.search(kinds[place]):
                continue
            refused.clear()
            troubles.clear()
            try:
                page.locator(_BUTTONS).nth(place).click(timeout=1500)
            except TooSlow:
                # Covered by what was pressed before.
                self.settles(page, traffic, address)
                continue
            # An answer may bring other buttons.
            traffic.settle()
            told = page.get_by_text("Not allowed").count()
            name = kinds[place].partition("|")[0]
            wrong += [f"{path}: “{name}”: {fault}" for fault in (*refused, *troubles, *["Not allowed"] * told)]
            page.keyboard.press("Escape")

    def follows_links(
        self, page: Page, traffic: Traffic, address: str, refused: list[str], troubles: list[str]
    ) -> list[str]:
        """Follow each kind of link of a screen that no other screen had.

        Return what went wrong, with where it led.
        """
        self.settles(page, traffic, address)
        wrong = []
        for link in page.eval_on_selector_all(_LINKS, "all => all.map(link => link.getAttribute('href'))"):
            if _kind_of(link) in self.followed:
                continue
            self.followed.add(_kind_of(link))
            refused.clear()
            troubles.clear()
            moves_to(page, f"http://127.0.0.1:{self.port}{link}")
            traffic.settle()
            lost = page.get_by_text("Nothing here").count()
            wrong += [f"{address} to {link}: {fault}" for fault in (*refused, *troubles, *["nothing there"] * lost)]
        return wrong

    def goes_back(self, page: Page, traffic: Traffic, address: str) -> None:
        """Come back to a screen that was left, without loading it anew where that can be."""
        page.go_back()
        traffic.settle()
        if urlsplit(page.url).path != urlsplit(address).path:
            self.settles(page, traffic, address)

    def settles(self, page: Page, traffic: Traffic, address: str) -> None:
        moves_to(page, address)
        # The bench has its heading in the bar, and what a role may not see has none.
        page.get_by_role("navigation", name="Sections").wait_for()
        traffic.settle()


def _refusal(answer: Response, answered: tuple[int, ...]) -> list[str]:
    if answer.status < HTTPStatus.BAD_REQUEST or answer.status in answered:
        return []
    if answer.status == HTTPStatus.CONFLICT and answer.url.endswith("/proof"):
        # A newer edit asked for another proof.
        return []
    return [f"{answer.request.method} {answer.url} {answer.status}"]
