"""The main text by agreement of three readings."""

import contextlib
from unittest import mock

from django.test import SimpleTestCase
from glyptarch_core.pages import second_reading
from glyptarch_core.pages.page import load_page
from glyptarch_core.text import plain_text

STORY = "".join(
    f"<p>The {word} lamp of the harbour was lit again on Monday, and {word} boats came in before the tide turned.</p>"
    for word in ("first", "second", "third", "fourth", "fifth", "sixth")
)
PAGE = f"<html><body><h1>Lamps</h1><div class='category-legal has-sidebar'>{STORY}</div><footer>Imprint</footer></body></html>"


class Agreement(SimpleTestCase):
    def setUp(self) -> None:
        self.page = load_page(PAGE.encode(), url="https://a.example/lamps")

    def agreed(self, ours: str, second: str | None = None, third: str | None = None) -> str:
        readings = {"_by_paragraphs": second, "_by_rules": third}
        with contextlib.ExitStack() as stack:
            for name, text in readings.items():
                if text is not None:
                    stack.enter_context(mock.patch.object(second_reading, name, return_value=text))
            return plain_text(second_reading.agreed_text(self.page, ours, self.page.body))

    def test_an_empty_reading_never_wins(self) -> None:
        self.assertIn("sixth lamp", self.agreed(""))
        self.assertIn("sixth lamp", self.agreed(STORY, second="", third=""))

    def test_ours_is_kept_where_the_second_agrees_without_asking_a_third(self) -> None:
        with mock.patch.object(second_reading, "_by_rules", side_effect=AssertionError):
            self.assertEqual(self.agreed(f"{STORY}<p>Lit.</p>", second=STORY)[-4:], "Lit.")

    def test_what_two_of_three_share_is_taken(self) -> None:
        menu = "<p>Home, news, sport and the weather of the week in one place.</p>"
        self.assertIn("sixth lamp", self.agreed(menu, second=STORY, third=STORY))
        self.assertIn("sixth lamp", self.agreed(STORY, second=menu, third=STORY))

    def test_the_title_is_not_repeated_whichever_reading_is_taken(self) -> None:
        headed = f"<body><h1>Lamps of the harbour</h1><div class='category-legal'>{STORY}</div></body>"
        page = load_page(f"<title>Lamps of the harbour</title>{headed}".encode(), url="https://a.example/lamps")
        for tiny in (False, True):
            with mock.patch.object(second_reading, "_TINY", 9.0 if tiny else 0.3):
                text = plain_text(second_reading.agreed_text(page, "", page.body, title="Lamps of the harbour"))
            self.assertIn("sixth lamp", text)
            self.assertNotIn("Lamps of the harbour", text)

    def test_a_tiny_second_reading_gives_way_to_the_third(self) -> None:
        self.assertIn("sixth lamp", self.agreed("", second="<p>Lamps</p>", third=STORY))

    def test_a_reading_that_has_more_in_boxes_only_is_no_other_one(self) -> None:
        box = (
            "<div><h3>Letters</h3><p>My aunt saw two boats only, and she was there from noon until the tide.</p></div>"
        )
        page = load_page(f"<body><main>{STORY}</main>{box}</body>".encode(), url="https://a.example/lamps")
        boxed = STORY + box * 3
        with (
            mock.patch.object(second_reading, "_by_paragraphs", return_value=boxed),
            mock.patch.object(second_reading, "_by_rules", return_value=boxed),
        ):
            main = page.body[0]
            self.assertNotIn("aunt", plain_text(second_reading.agreed_text(page, STORY, main)))
        flow = f"<body><main>{STORY}</main><p>My aunt saw two boats only, and she was there from noon.</p></body>"
        page = load_page(flow.encode(), url="https://a.example/lamps")
        more = STORY + "<p>My aunt saw two boats only, and she was there from noon.</p>" * 3
        with (
            mock.patch.object(second_reading, "_by_paragraphs", return_value=more),
            mock.patch.object(second_reading, "_by_rules", return_value=more),
        ):
            self.assertIn("aunt", plain_text(second_reading.agreed_text(page, STORY, page.body[0])))

    def test_a_very_large_page_has_our_reading_alone(self) -> None:
        large = load_page(
            f"<html><body>{STORY}{'<p>more</p>' * 13_000}</body></html>".encode(), url="https://a.example/"
        )
        with mock.patch.object(second_reading, "Document", side_effect=AssertionError):
            self.assertEqual(second_reading.agreed_text(large, "<p>Ours.</p>", large.body), "<p>Ours.</p>")

    def test_a_library_that_fails_is_a_reading_less(self) -> None:
        with (
            mock.patch.object(second_reading, "Document", side_effect=RecursionError),
            mock.patch.object(second_reading.trafilatura, "extract", side_effect=ValueError),
        ):
            self.assertIn("sixth lamp", plain_text(second_reading.agreed_text(self.page, STORY, self.page.body)))
