"""The bench by stage: how editors change the proof, the revisions and the next run."""

import re

from glyptarch_server.blogs.models import Blog, WordList
from glyptarch_server.campaigns.models import Revision
from glyptarch_server.runs.models import Decision
from glyptarch_server.sources.models import Source
from playwright.sync_api import Page, expect

from tests.browser.driver import opened
from tests.browser.live import LiveCase

SLUG = "comets-meteor-showers"


class Bench(LiveCase):
    def test_every_stage_can_be_worked_on_and_taken_back(self) -> None:
        with opened() as (page, troubles):
            self.signs_in(page)
            self.keeps_a_word_list(page)
            self.builds_a_search_and_a_group(page)
            self.matches_nearly_the_same(page)
            self.orders_steps(page)
            self.writes_templates(page)
            self.sorts_and_dates(page)
            self.holds_and_paces(page)
            self.proves_on_what_it_likes(page)
            self.sets_the_defaults(page)
            self.takes_rules_from_yaml(page)
            self.brings_a_revision_back(page)
            self.forgets(page)
            self.limits_a_source(page)
        # The browser reports the answer 422 to a deliberate typing error, and 409 to a proof that an edit overtook.
        expected = re.compile("422|409 .*/proof$")
        self.assertEqual([trouble for trouble in troubles if not expected.search(trouble)], [])

    def opens(self, page: Page, stage: str) -> None:
        page.goto(f"http://127.0.0.1:{self.port}/desk/dark-meadow/campaigns/{SLUG}")
        page.get_by_role("region", name="Funnel of the proof").get_by_role(
            "button", name=re.compile(f"^{stage}")
        ).click()
        expect(page.get_by_role("region", name=f"Rules of {stage}")).to_be_visible()
        expect(page.get_by_text(re.compile(r"^Proof of \d+ items"))).to_be_visible()

    def adds(self, page: Page, button: str, kind: str) -> None:
        page.get_by_role("button", name=button, exact=True).click()
        page.get_by_role("menuitem", name=re.compile(f"^{kind}")).click()

    def keeps_a_word_list(self, page: Page) -> None:
        page.get_by_role("link", name="Library").click()
        page.get_by_role("button", name="New list").click()
        page.get_by_label("Name").fill("Of the sky")
        page.get_by_label("Terms").fill("comet*\nmeteor*, fireball")
        page.get_by_role("button", name="Keep the list").click()
        expect(page.get_by_role("region", name="Of the sky")).to_contain_text("3 terms")
        self.assertEqual(WordList.objects.get(key="of-the-sky").words, ["comet*", "meteor*", "fireball"])
        self.is_accessible(page)

    def builds_a_search_and_a_group(self, page: Page) -> None:
        self.opens(page, "Sift")
        self.adds(page, "Add rule", "Search")
        search = page.get_by_label("Search", exact=True)
        search.fill('comet OR "half a')
        expect(page.get_by_text("this quotation is not closed").first).to_be_visible()
        expect(page.get_by_text("The list shows the last proof that could be made.")).to_be_visible()
        search.fill("comet OR meteor OR mirror")
        expect(page.get_by_text("The list shows the last proof")).to_have_count(0)
        self.adds(page, "Add rule", "Group")
        group = page.get_by_role("group", name="Rule group")
        group.get_by_role("button", name="list").first.click()
        page.get_by_role("menuitem", name=re.compile("^Of the sky")).click()
        expect(group).to_contain_text("Of the sky (3)")
        self.is_accessible(page)
        page.get_by_role("button", name="Discard").click()

    def matches_nearly_the_same(self, page: Page) -> None:
        self.opens(page, "Match")
        likeness = page.get_by_label("Likeness of texts in per cent")
        likeness.fill("90")
        self.adds(page, "Add a comparison", "Nearly the same title")
        expect(page.get_by_role("group", name="Rule near-title")).to_contain_text("matches")
        page.get_by_role("button", name="Discard").click()
        expect(likeness).to_have_value("65")

    def orders_steps(self, page: Page) -> None:
        self.opens(page, "Shape")
        self.adds(page, "Add a step", "Tidy up")
        self.adds(page, "Add a step", "Replace words")
        steps = page.get_by_role("list", name="Steps").get_by_role("listitem")
        expect(steps).to_have_count(3)
        page.get_by_role("button", name="Move step replace up").click()
        expect(steps.nth(1).get_by_role("group", name="Step replace")).to_be_visible()
        page.get_by_role("group", name="Step replace").get_by_label("What", exact=True).fill("night")
        page.get_by_role("group", name="Step replace").get_by_label("By", exact=True).fill("dark hours")
        expect(page.get_by_text(re.compile(r"items? changes?:"))).to_be_visible()
        self.is_accessible(page)
        before = Revision.objects.filter(campaign__slug=SLUG).count()
        self.menu(page, "Save with a note")
        page.get_by_role("dialog").get_by_label("Note").fill("own words")
        page.get_by_role("dialog").get_by_role("button", name="Save").click()
        expect(page.get_by_text(re.compile("^Saved as revision")).first).to_be_visible()
        latest = Revision.objects.filter(campaign__slug=SLUG).order_by("-number")[0]
        self.assertEqual((latest.number, latest.note), (before + 1, "own words"))
        self.assertEqual(
            [step["kind"] for step in latest.document["shape"]["steps"]], ["drop_paragraphs", "replace", "tidy"]
        )

    def writes_templates(self, page: Page) -> None:
        self.opens(page, "Shape")
        title = page.get_by_role("textbox", name="Title", exact=True)
        title.click()
        page.keyboard.press("End")
        page.keyboard.type(" by {{ auth")
        expect(page.get_by_role("option", name=re.compile(r"^author\s*First author"))).to_be_visible()
        page.keyboard.press("Enter")
        expect(page.get_by_text(re.compile("line 1, column")).first).to_be_visible()
        page.keyboard.type(" }}{{ facts.weight }}")
        expect(page.get_by_role("list", name="Variables without a value")).to_contain_text("facts.weight")
        page.get_by_role("radio", name=re.compile("^Kept")).click()
        expect(page.get_by_text("other text").first).to_be_visible()
        page.get_by_role("button", name="Layouts").click()
        page.get_by_role("menuitem", name=re.compile("^Link note")).click()
        expect(page.get_by_role("textbox", name="Body", exact=True)).to_contain_text("Read on at")
        self.adds(page, "Add a field", "A field")
        page.get_by_label("Name of the field").first.fill("Bright ness")
        expect(page.get_by_label("Name of the field").first).to_have_value(re.compile("bright_ness|reading_time"))
        self.is_accessible(page)
        page.get_by_role("button", name="Discard").click()

    def sorts_and_dates(self, page: Page) -> None:
        self.opens(page, "Place")
        self.adds(page, "Add a category rule", "By the source’s categories")
        rule = page.get_by_role("group", name="category rule table")
        rule.get_by_role("button", name="row").click()
        rule.get_by_label("their word 1").fill("Meteors")
        rule.get_by_label("our category 1").fill("Falling stars")
        expect(rule).to_contain_text(re.compile("applies to [1-9]"))
        expect(page.get_by_text(re.compile("items? changes?: .*another place or date"))).to_be_visible()
        self.adds(page, "Add a tag rule", "From the title")
        expect(page.get_by_role("group", name="tag rule title")).to_contain_text(re.compile("applies to [1-9]"))
        page.get_by_role("group", name="Date").get_by_label("Date").click()
        page.get_by_role("option", name="spread evenly").click()
        expect(page.get_by_label("First moment", exact=True)).to_be_visible()
        page.get_by_label("Who may read").click()
        page.get_by_role("option", name="whoever knows the phrase").click()
        page.get_by_label("Pass phrase").fill("dark field")
        expect(page.get_by_text("The rules have an error. See it above the list.")).to_have_count(0)
        page.get_by_role("radio", name=re.compile("^Kept")).click()
        expect(page.get_by_text("with a pass phrase").first).to_be_visible()
        self.is_accessible(page)
        page.get_by_role("button", name="Discard").click()

    def holds_and_paces(self, page: Page) -> None:
        self.opens(page, "Release")
        page.get_by_role("radio", name=re.compile("^Publish by itself")).click()
        self.adds(page, "Hold when …", "Short")
        page.get_by_role("group", name="condition few-words").get_by_label("Words").fill("9000")
        expect(page.get_by_role("group", name="condition few-words")).to_contain_text(re.compile("holds [1-9]"))
        pace = page.get_by_role("group", name="Pace")
        pace.get_by_role("button", name="any number of posts").click()
        pace.get_by_label("Posts a run").fill("1")
        expect(page.get_by_text("now waits for a later run, was kept").first).to_be_visible()
        self.is_accessible(page)
        page.get_by_role("button", name="Discard").click()

    def proves_on_what_it_likes(self, page: Page) -> None:
        self.opens(page, "Sift")
        facts = page.get_by_text(re.compile("^Proof of"))
        facts.click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Address or feed").fill("this is no feed")
        dialog.get_by_role("button", name="Use it for the proof").click()
        expect(dialog.get_by_role("alert")).to_contain_text("cannot be read as a feed")
        dialog.get_by_label("Address or feed").fill(
            '<rss version="2.0"><channel><title>Tried</title><item><guid>1</guid><title>A comet tonight</title>'
            "<description>Short.</description></item></channel></rss>"
        )
        dialog.get_by_role("button", name="Use it for the proof").click()
        expect(facts).to_contain_text("Proof of 1 item of a sample")
        dialog.get_by_label("Days").fill("20")
        expect(facts).to_contain_text("of the last 20 days")
        dialog.get_by_label("Revision").click()
        page.get_by_role("option", name=re.compile("^revision 1")).click()
        page.keyboard.press("Escape")
        expect(page.get_by_text("Against revision 1:")).to_be_visible()
        page.get_by_role("button", name="Compare with the saved rules").click()
        page.get_by_role("radio", name=re.compile("^All")).click()
        row = page.get_by_role("option").nth(1)
        row.hover()
        row.locator("[data-pick]").click()
        page.get_by_role("button", name="Proof with only this item").click()
        expect(facts).to_contain_text("Proof of 1 picked item")

    def sets_the_defaults(self, page: Page) -> None:
        self.menu(page, "Defaults of the blog")
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_role("list", name="Differences")).to_contain_text("place › category")
        dialog.get_by_role("button", name="Make these rules the defaults").click()
        expect(dialog).to_contain_text("These rules are the same as the defaults of the blog.")
        self.assertEqual(Blog.objects.get(slug="dark-meadow").defaults["place"]["category"], "Observatory")
        dialog.get_by_role("button", name="Back to the original defaults").click()
        page.get_by_role("button", name="Drop defaults").click()
        expect(dialog.get_by_role("list", name="Differences")).to_be_visible()
        dialog.get_by_role("button", name="Close").click()
        expect(dialog).to_have_count(0)

    def menu(self, page: Page, entry: str) -> None:
        page.get_by_role("button", name="More").click()
        page.get_by_role("menuitem", name=entry).click()

    def takes_rules_from_yaml(self, page: Page) -> None:
        self.menu(page, "Rules as YAML")
        text = page.get_by_role("textbox", name="Rules as YAML")
        expect(text).to_have_value(re.compile("drop_paragraphs"))
        whole = text.input_value()
        text.fill("release: {mood: publish}")
        page.get_by_role("button", name="Load on the bench").click()
        expect(page.get_by_role("dialog")).to_contain_text("did you mean “mode”?")
        text.fill(whole.replace("mode: hold", "mode: draft"))
        page.get_by_role("button", name="Load on the bench").click()
        expect(page.get_by_text("Keeps drafts")).to_be_visible()
        page.get_by_role("button", name="Discard").click()

    def brings_a_revision_back(self, page: Page) -> None:
        self.menu(page, "Revisions")
        page.get_by_role("button", name=re.compile(r"^1 ")).click()
        expect(page.get_by_role("dialog")).to_contain_text("sift › rules › length › at_least")
        page.get_by_role("button", name="Load these rules on the bench").click()
        page.get_by_role("region", name="Funnel of the proof").get_by_role("button", name=re.compile("^Sift")).click()
        expect(page.get_by_label("At least")).to_have_value("120")
        page.get_by_role("button", name="Discard").click()

    def forgets(self, page: Page) -> None:
        before = Decision.objects.filter(campaign__slug=SLUG).count()
        self.menu(page, "Decide items again")
        page.get_by_role("button", name=re.compile(r"^Forget \d+ items")).click()
        expect(page.get_by_text(re.compile("^Forgotten:")).first).to_be_visible()
        self.assertLess(Decision.objects.filter(campaign__slug=SLUG).count(), before)

    def limits_a_source(self, page: Page) -> None:
        page.get_by_role("link", name="Sources", exact=True).click()
        page.get_by_role("link", name="Meadowlark Club").click()
        rights = page.get_by_role("region", name="Name and rights")
        rights.get_by_label("Right").click()
        page.get_by_role("option", name="a link only").click()
        rights.get_by_label("Attribution line").fill("Courtesy of the club")
        rights.get_by_role("button", name="Keep").click()
        expect(page.get_by_text("It applies to posts made from now on.").first).to_be_visible()
        source = Source.objects.get(key="meadowlark-club")
        self.assertEqual((source.right, source.attribution), ("link", "Courtesy of the club"))
        self.is_accessible(page)
