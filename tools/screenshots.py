"""``python -m tools.screenshots``: take the pictures of docs/screenshots."""

import argparse
import re
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

__all__: list[str] = []

_FOLDER = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
_FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update"]
_DESK = "/desk/dark-meadow"


def _bench(page: Page, base: str) -> None:
    page.goto(f"{base}{_DESK}/campaigns/comets-meteor-showers")
    page.get_by_text(re.compile("^Proof of")).wait_for()
    page.get_by_role("group", name="Rule comets").get_by_role("button", name="add").click()
    page.get_by_label("Terms: word").fill("fireball, telescope")
    page.keyboard.press("Enter")
    page.get_by_text(re.compile("items? changes?:")).wait_for()
    page.get_by_role("radio", name=re.compile("^Changed")).click()


def _bench_shape(page: Page, base: str) -> None:
    page.goto(f"{base}{_DESK}/campaigns/club-syndicate")
    page.get_by_role("button", name=re.compile("^Shape")).click()
    page.get_by_role("radio", name=re.compile("^Kept")).click()
    page.get_by_role("tab", name="Post preview").click()


def _platform(page: Page, base: str) -> None:
    page.goto(f"{base}{_DESK}/platform-sources/new?platform=films")
    page.get_by_role("option", name="Films of the vale").wait_for(state="attached")
    page.get_by_label("Connection").select_option(label="Films of the vale")
    page.get_by_label("Search words, line 1").fill("comet")
    page.get_by_role("button", name="Test", exact=True).click()
    page.get_by_role("region", name="What came").wait_for()


def _run(page: Page, base: str) -> None:
    page.goto(f"{base}{_DESK}/runs")
    page.get_by_role("row", name=re.compile("Sky headlines")).nth(2).get_by_role("link").first.click()


def _post(page: Page, base: str) -> None:
    page.goto(f"{base}{_DESK}/posts?state=held")
    page.locator("tbody").get_by_role("link").first.click()
    page.get_by_role("list", name="Trace").wait_for()


def _edit(page: Page, base: str) -> None:
    page.goto(f"{base}{_DESK}/posts")
    page.locator("tbody").get_by_role("link").first.click()
    page.get_by_role("link", name="Edit").click()
    page.get_by_label("Excerpt").wait_for()
    page.get_by_role("radio", name="As the blog shows it").click()


def _replay(page: Page, base: str) -> None:
    page.goto(f"{base}{_DESK}/campaigns/club-syndicate/replay")
    page.get_by_role("button", name=re.compile("^Compare")).click()
    page.get_by_role("button", name=re.compile("^Apply")).first.wait_for()
    page.get_by_role("button", name="Differences").first.click()


def _review(page: Page, base: str) -> None:
    page.goto(f"{base}{_DESK}/review")
    page.get_by_text("Like it").wait_for()


def _look(page: Page, base: str) -> None:
    page.goto(f"{base}{_DESK}/look")
    page.get_by_role("list", name="Parts of the front").wait_for()
    page.frame_locator("iframe").get_by_text("Newest").first.wait_for()


def _at(path: str) -> Callable[[Page, str], None]:
    def go(page: Page, base: str) -> None:
        page.goto(f"{base}{path}")

    return go


def _schedule(page: Page, base: str) -> None:
    page.goto(f"{base}{_DESK}/campaigns/club-syndicate")
    page.get_by_role("button", name=re.compile("Schedule, next run")).click()
    page.get_by_text("Next times").wait_for()


def _reader(page: Page, base: str) -> None:
    page.goto(f"{base}{_DESK}/readers/new")
    page.get_by_label("Address of a page that lists articles").fill("http://127.0.0.1:8790/bulletin/")
    page.get_by_role("button", name="Open the page").click()
    page.get_by_role("application").wait_for()
    page.get_by_role("region", name="Article link").get_by_role("button", name="Point").click()
    page.wait_for_timeout(1500)


_VIEWS: dict[str, Callable[[Page, str], None]] = {
    "today": _at(f"{_DESK}/today"),
    "schedule": _schedule,
    "campaigns": _at(f"{_DESK}/campaigns"),
    "bench": _bench,
    "bench-shape": _bench_shape,
    "replay": _replay,
    "run": _run,
    "posts": _at(f"{_DESK}/posts"),
    "post": _post,
    "edit": _edit,
    "review": _review,
    "sources": _at(f"{_DESK}/sources"),
    "offers": _at("/desk/orrin-gear/offers"),
    "look": _look,
    "source": _at(f"{_DESK}/sources/orrin-observatory"),
    "reader": _reader,
    "platform": _platform,
    "blog": _at("/blog/dark-meadow/"),
    "blog-guide": _at("/blog/orrin-gear/"),
}


def _main() -> None:
    parser = argparse.ArgumentParser(description="Take the pictures of docs/screenshots from a demo that runs.")
    parser.add_argument("views", nargs="*", help=f"some of: {', '.join(_VIEWS)}; all when none is named")
    parser.add_argument("--base", default="http://127.0.0.1:8700")
    parser.add_argument("--password", default="dark-meadow")
    given = parser.parse_args()
    _FOLDER.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=_FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(given.base)
        page.get_by_label("Name").fill("mira")
        page.get_by_label("Password").fill(given.password)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("list", name="Campaigns").wait_for()
        for name in given.views or _VIEWS:
            _VIEWS[name](page, given.base)
            page.wait_for_load_state("networkidle")
            page.wait_for_timeout(600)
            page.screenshot(path=_FOLDER / f"{name}.png")
        browser.close()


if __name__ == "__main__":
    _main()
