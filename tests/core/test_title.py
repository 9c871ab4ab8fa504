"""The title of an article among what a page says."""

from django.test import SimpleTestCase
from glyptarch_core.pages.article import extract
from glyptarch_core.pages.page import load_page

_TEXT = "".join(
    f"<p>The {word} lamp of the harbour was lit on Monday, and {word} boats came in before the tide.</p>"
    for word in ("first", "second", "third")
)


class Titles(SimpleTestCase):
    def title(self, markup: str, url: str = "https://vale.example/lamps") -> str:
        return extract(load_page(markup.encode(), url=url)).title

    def test_a_heading_that_the_title_element_has_is_taken_without_the_site(self) -> None:
        page = (
            f"<title>Lamps of the harbour | Vale Pages</title><h1>Vale Pages</h1><h2>Lamps of the harbour</h2>{_TEXT}"
        )
        self.assertEqual(self.title(page), "Lamps of the harbour")

    def test_a_heading_that_nothing_agrees_with_gives_way(self) -> None:
        page = f"<title>Lamps of the harbour</title><body><h1>Information and more</h1>{_TEXT}</body>"
        self.assertEqual(self.title(page), "Lamps of the harbour")

    def test_a_title_element_that_names_the_site_gives_way_to_the_heading_of_the_text(self) -> None:
        page = (
            f"<title>Vale Pages</title><body><a href='/'>Vale Pages</a><div><h2>Lamps of the harbour</h2>{_TEXT}</div>"
            "<h2>Read also</h2></body>"
        )
        self.assertEqual(self.title(page), "Lamps of the harbour")
        self.assertEqual(
            self.title(page.replace("<a href='/'>Vale Pages</a>", "<footer>© 2026 Vale Pages.</footer>")),
            "Lamps of the harbour",
        )

    def test_the_name_of_the_host_is_no_part_of_a_title(self) -> None:
        page = f"<title>Lamps of the harbour -- Vale.example</title><body>{_TEXT}</body>"
        self.assertEqual(self.title(page), "Lamps of the harbour")
        page = f"<title>Lamps | The Long Vale Pages</title><body>{_TEXT}</body>"
        self.assertEqual(self.title(page, "https://the-long-vale-pages.example/lamps"), "Lamps")

    def test_name_and_date_below_a_title_that_is_no_heading_are_found(self) -> None:
        page = (
            "<title>Lamps of the harbour - Vale Pages</title><table><tr><td><font><b>Lamps of the harbour</b></font><br>"
            f"<small>Wednesday 6 May 2026 – Ada Lamplight</small><br>{_TEXT}</td></tr></table>"
        )
        article = extract(load_page(page.encode(), url="https://vale.example/lamps"))
        self.assertEqual(article.author, "Ada Lamplight")
        self.assertEqual(article.date.date().isoformat() if article.date else "", "2026-05-06")
