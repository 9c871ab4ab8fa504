"""What the articles of one site share, and how it leaves them."""

from django.test import SimpleTestCase
from glyptarch_core.pages.document import ArticlePage
from glyptarch_core.pages.page import Page, load_page
from glyptarch_core.pages.reading import read_article
from glyptarch_core.pages.site import MOST_PAGES, PagePrint, SiteMemory, print_of, without_repeated
from glyptarch_core.text import plain_text

_SAID = {
    "lamps": "The first lamp of the harbour was lit on Monday, and three boats came in before the tide turned.",
    "bridge": "The footbridge at Winnow Hill is closed, because a beam has split and a new one must be cut.",
    "choir": "Forty singers filled the hall at Marl Crossing, and the last of them stood on the stairs.",
    "fair": "The harvest fair moves to the old kiln yard, where carts can turn and nobody blocks the lane.",
}
_LETTERS = {
    "lamps": "I was there with my aunt and we saw two boats only, but the lamp was bright.",
    "bridge": "Could somebody say when the beam was last looked at by a carpenter of the town.",
    "choir": "The stairs are no place for a singer, and next year there should be more chairs.",
    "fair": "Please leave room for the bread stall, which was hidden behind a cart last year.",
}
_ABOUT = "We have written about the vale since the second winter, and we read every letter that comes to us."


def _article(name: str, *, before: str = "", after: str = "", byline: str = "") -> Page:
    said = "".join(f"<p>{_SAID[name]} {word} it was said again in {name}.</p>" for word in ("Once", "Twice", "Later"))
    letters = f"<div><h3>Letters</h3><div>{_LETTERS[name]}</div></div>"
    about = f"<div><div>{_ABOUT}</div></div>"
    return load_page(
        f"<html><head><title>Vale Pages</title></head><body><main>{before}<h2>News of the {name}</h2>{byline}{said}"
        f"{letters}{about}{after}</main></body></html>".encode(),
        url=f"https://vale.example/{name}",
    )


def _keys(*pages: Page, of: Page) -> frozenset[str]:
    return SiteMemory().with_pages([print_of(page) for page in pages]).repeated(print_of(of))


class Repetition(SimpleTestCase):
    def setUp(self) -> None:
        self.pages = [_article(name) for name in _SAID]

    def read(self, page: Page, keys: frozenset[str], keep: tuple[str, ...] = ()) -> str:
        return plain_text(read_article(page, ArticlePage(keep=keep), repeated=keys).fields["text"])

    def test_a_box_whose_heading_repeats_goes_whatever_it_says(self) -> None:
        keys = _keys(*self.pages, of=self.pages[0])
        text = self.read(self.pages[0], keys)
        self.assertNotIn("my aunt", text)
        self.assertNotIn("second winter", text)
        self.assertIn("Later it was said again in lamps.", text)

    def test_what_is_left_out_is_told_and_can_be_kept(self) -> None:
        page = self.pages[0]
        keys = _keys(*self.pages, of=page)
        parts = read_article(page, ArticlePage(), repeated=keys).repeated
        self.assertEqual([part.text for part in parts], ["Letters", _ABOUT])
        kept = tuple(part.key for part in parts if part.text == "Letters")
        read = read_article(_article("lamps"), ArticlePage(keep=kept), repeated=keys)
        self.assertEqual([(part.text, part.kept) for part in read.repeated], [("Letters", True), (_ABOUT, False)])
        text = plain_text(read.fields["text"])
        self.assertLess(text.index("Later it was said"), text.index("Letters"))
        self.assertIn("my aunt", text)
        self.assertNotIn("second winter", text)

    def test_a_title_that_all_pages_have_is_none(self) -> None:
        read = read_article(self.pages[0], ArticlePage(), repeated=_keys(*self.pages, of=self.pages[0]))
        self.assertEqual(read.fields["title"], "News of the lamps")

    def test_two_other_articles_are_needed(self) -> None:
        self.assertEqual(_keys(*self.pages[:2], of=self.pages[0]), frozenset())
        self.assertNotEqual(_keys(*self.pages[:3], of=self.pages[0]), frozenset())

    def test_a_page_under_two_addresses_is_one_article(self) -> None:
        again = print_of(self.pages[0])
        copies = [PagePrint(url=f"https://vale.example/copy-{number}", blocks=again.blocks) for number in range(3)]
        self.assertEqual(SiteMemory().with_pages(copies).repeated(again), frozenset())

    def test_a_copy_with_other_links_beside_it_is_one_article(self) -> None:
        copies = [
            _article("lamps", after="".join(f"<p><a href='/{tag}'>Seen {tag} of {number}</a></p>" for tag in "abcd"))
            for number in range(3)
        ]
        prints = [
            PagePrint(url=f"https://vale.example/copy-{number}", blocks=print_of(copy).blocks)
            for number, copy in enumerate(copies)
        ]
        self.assertEqual(SiteMemory().with_pages(prints[1:]).repeated(prints[0]), frozenset())

    def test_menus_that_are_most_of_each_page_make_no_copies_of_its_articles(self) -> None:
        menu = "".join(
            f"<li><a href='/s/{number}'>Section {number}</a></li><li>Year {number}</li>" for number in range(90)
        )
        pages = [_article(name, after=f"<ul>{menu}</ul>") for name in _SAID]
        bared = without_repeated(pages[0], _keys(*pages, of=pages[0]))
        self.assertIn("Letters", [part.text for part in bared.parts])
        self.assertIn("three boats", bared.page.body.text_content())

    def test_a_page_that_is_read_again_has_the_print_of_today(self) -> None:
        before = PagePrint(url="https://vale.example/1", blocks=("a",))
        after = PagePrint(url="https://vale.example/1", blocks=("b",))
        self.assertEqual(SiteMemory().with_pages([before]).with_pages([after]).pages, (after,))

    def test_a_heading_amid_the_paragraphs_of_every_article_stays(self) -> None:
        after = "<h3>How to get there</h3><p>Walk from the market, and turn left at the well, which is dry.</p>"
        pages = [_article(name, after=after.replace("well", f"well of {name}")) for name in _SAID]
        page = without_repeated(pages[0], _keys(*pages, of=pages[0])).page
        self.assertIn("How to get there", page.body.text_content())
        self.assertIn("well of lamps", page.body.text_content())

    def test_a_line_with_a_date_or_a_name_stays(self) -> None:
        byline = "<div><p>By Ada Lamplight</p><p>{} May 2026</p></div>"
        pages = [_article(name, byline=byline.format(day)) for day, name in enumerate(_SAID, start=3)]
        read = read_article(pages[0], ArticlePage(), repeated=_keys(*pages, of=pages[0]))
        self.assertEqual(read.fields["author"], "Ada Lamplight")
        self.assertEqual(read.date.date().isoformat() if read.date else "", "2026-05-03")

    def test_a_box_with_the_title_stays_though_it_begins_as_on_all_pages(self) -> None:
        pages = [
            load_page(
                f"<body><div><div><span>News</span></div><h2>News of the {name}</h2>"
                f"<p>{_SAID[name]}</p><p>{_LETTERS[name]}</p></div><div>{_ABOUT}</div></body>".encode(),
                url=f"https://vale.example/{name}",
            )
            for name in _SAID
        ]
        page = without_repeated(pages[0], _keys(*pages, of=pages[0])).page
        self.assertIn("three boats", page.body.text_content())

    def test_a_title_that_others_link_to_is_no_repeated_heading(self) -> None:
        links = "".join(f"<li><a href='/{name}'>News of the {name}</a></li>" for name in _SAID)
        pages = [_article(name, after=f"<ul>{links}</ul>") for name in _SAID]
        lead = "<div><h3>News of the {}</h3><p>Everybody in the vale of {} has heard of it by now.</p></div>"
        pages = [_article(name, before=lead.format(name, name), after=f"<ul>{links}</ul>") for name in _SAID]
        page = without_repeated(pages[0], _keys(*pages, of=pages[0])).page
        self.assertIn("in the vale of lamps", page.body.text_content())

    def test_a_memory_keeps_the_newest_pages_each_once(self) -> None:
        prints = [PagePrint(url=f"https://vale.example/{number}", blocks=("a",)) for number in range(MOST_PAGES + 3)]
        memory = SiteMemory().with_pages(prints[:5]).with_pages(prints[4:])
        self.assertEqual(len(memory.pages), MOST_PAGES)
        self.assertEqual(memory.pages[0].url, "https://vale.example/4")
        self.assertEqual(len({page.url for page in memory.pages}), MOST_PAGES)
