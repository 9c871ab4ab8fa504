"""People who follow a link of a mail, from the mail to the desk."""

import re

from django.contrib.auth.tokens import default_token_generator
from django.utils.http import urlsafe_base64_encode
from glyptarch_server.accounts.models import User
from playwright.sync_api import Browser, Page, expect, sync_playwright

from tests.browser.driver import BROWSER, FLAGS
from tests.browser.live import LiveCase


class Entrance(LiveCase):
    def test_links_of_mails_lead_to_the_desk_and_used_ones_say_so(self) -> None:
        with sync_playwright() as play:
            browser = play.chromium.launch(executable_path=BROWSER, args=FLAGS)
            link = self.invites_a_reviewer(self.fresh(browser))
            self.joins(self.fresh(browser), link)
            self.follows_an_old_link(self.fresh(browser), link)
            self.joins_with_the_account_there_is(browser)
            self.sets_a_new_password(browser)
            browser.close()

    def fresh(self, browser: Browser) -> Page:
        """Return a page of somebody who has not signed in."""
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.set_default_timeout(20_000)
        return page

    def address(self, path: str) -> str:
        return f"http://127.0.0.1:{self.port}/{path}"

    def invites_a_reviewer(self, page: Page, mail: str = "ida@club.example") -> str:
        self.signs_in(page)
        page.goto(self.address("desk/dark-meadow/people"))
        page.get_by_role("button", name="Invite").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label(re.compile("^Mail address")).fill(mail)
        dialog.get_by_role("button", name=re.compile("^Invite|^Make")).click()
        told = page.get_by_text(re.compile("/join/")).or_(page.locator("input[value*='/join/']")).first
        expect(told).to_be_visible()
        text = told.input_value() if told.evaluate("one => one.tagName") == "INPUT" else told.inner_text()
        return self.address(f"join/{text.rsplit('/join/', 1)[1].split()[0]}")

    def joins(self, page: Page, link: str) -> None:
        page.goto(link)
        expect(page.get_by_role("heading", name=re.compile("^Join “"))).to_be_visible()
        page.get_by_label(re.compile("^Your name")).fill("Ida Farrow")
        page.get_by_label(re.compile("^Name for signing in")).fill("ida")
        page.get_by_label(re.compile("^Password")).fill("a bright clear night")
        page.get_by_role("button", name=re.compile("^Join|^Make")).click()
        expect(page.get_by_role("navigation", name="Sections")).to_be_visible()
        expect(page).to_have_url(re.compile("/desk/dark-meadow/today"))

    def follows_an_old_link(self, page: Page, link: str) -> None:
        for address in (link, self.address("join/nobody-knows-this")):
            page.goto(address)
            expect(page.get_by_role("alert")).to_contain_text("invitation")
            page.get_by_role("link", name="Sign in").click()
            expect(page.get_by_label("Password", exact=True)).to_be_visible()

    def joins_with_the_account_there_is(self, browser: Browser) -> None:
        link = self.invites_a_reviewer(self.fresh(browser), "mira.again@club.example")
        page = self.fresh(browser)
        self.signs_in(page)
        page.goto(link)
        page.get_by_role("button", name="Join as Mira").click()
        # She owns the blog already, and stays an owner.
        expect(page).to_have_url(re.compile("/desk/dark-meadow/today"))

    def sets_a_new_password(self, browser: Browser) -> None:
        user = User.objects.get(username="mira")
        number = urlsafe_base64_encode(str(user.pk).encode())
        link = self.address(f"reset/{number}/{default_token_generator.make_token(user)}")
        page = self.fresh(browser)
        page.goto(link)
        page.get_by_label("New password").fill("another long password")
        page.get_by_role("button", name="Set the password").click()
        page.get_by_role("link", name="Sign in").click()
        page.get_by_label("Name").fill("mira")
        page.get_by_label("Password", exact=True).fill("another long password")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("navigation", name="Sections")).to_be_visible()
        page.goto(link)
        page.get_by_label("New password").fill("a third long password")
        page.get_by_role("button", name="Set the password").click()
        expect(page.get_by_role("alert")).to_be_visible()
        page.get_by_role("link", name="Ask for another link at the sign-in").click()
