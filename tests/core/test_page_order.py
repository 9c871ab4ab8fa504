"""Order, numbers and addresses of a page's elements, compared with other implementations."""

import random
import unittest
from urllib.parse import urljoin

from cssselect import HTMLTranslator
from glyptarch_core.errors import ParseError
from glyptarch_core.pages.derive import derive, page_index
from glyptarch_core.pages.page import MOST_ELEMENTS, Page, load_page
from glyptarch_core.readers.model import resolve
from hypothesis import given, settings
from hypothesis import strategies as st

URL = "https://a.example/news/"
_TAGS = ("div", "p", "section", "span", "article")


def chance(seed: int) -> random.Random:
    return random.Random(seed)  # noqa: S311 - made-up pages


def made(seed: int, size: int = 60) -> Page:
    """Return a page of nested elements with a few classes, ids and roles, and comments."""
    rng = chance(seed)

    def some(depth: int) -> str:
        parts = []
        for _ in range(rng.randint(0, 4)):
            tag = rng.choice(_TAGS if depth < 6 else ("span",))
            names = " ".join(rng.sample(("card", "cards", "row", "x1", "x12"), rng.randint(0, 2)))
            written = f' class="{names}"' if names else ""
            written += f' id="i{rng.randint(0, size)}"' if rng.random() < 0.1 else ""
            written += ' role="row"' if rng.random() < 0.1 else ""
            parts.append(f"<{tag}{written}>word{some(depth + 1) if depth < 7 else ''}</{tag}><!-- so -->")
        return "".join(parts)

    return load_page(f"<body><main>{some(0)}{some(0)}<a href='/a'>a</a></main></body>".encode(), url=URL)


class Order(unittest.TestCase):
    def test_what_stands_in_what_is_as_walking_up_the_tree_tells(self) -> None:
        for seed in range(40):
            page = made(seed)
            index, rng = page_index(page), chance(seed)
            for _ in range(10):
                own = set(rng.choices(page.elements, k=8))
                above = set(rng.choices(page.elements, k=rng.randint(0, 6)))
                walked = {one for one in own if any(step in above for step in one.iterancestors())}
                self.assertEqual(index.inside(own, above), walked, seed)

    def test_the_last_element_within_another_ends_it(self) -> None:
        page = made(3)
        for place, element in enumerate(page.elements):
            inside = [page.places[inner] for inner in element.iterdescendants() if isinstance(inner.tag, str)]
            self.assertEqual(page.ends[place], max(inside, default=place))

    def test_tokens_find_what_css_finds(self) -> None:
        translator = HTMLTranslator()
        for seed in range(20):
            page = made(seed)
            index = page_index(page)
            for token in ("div", "div.card", "p.x1", "span.row", "#i3", "#i40", "div[role=row]", "p.none", "table"):
                found = page.root.xpath(translator.css_to_xpath(token))
                self.assertEqual(index.of(token), set(found), (seed, token))

    def test_numbers_among_neighbours_are_those_of_css(self) -> None:
        translator = HTMLTranslator()
        page = made(7)
        for tag in _TAGS:
            for number in (1, 2, 3):
                found = page.root.xpath(translator.css_to_xpath(f"{tag}:nth-of-type({number})"))
                mine = [element for element in page.elements if element.tag == tag and page.nth[element] == number]
                self.assertEqual(mine, list(found))

    def test_a_selector_matches_in_the_order_of_the_page_what_css_matches(self) -> None:
        translator = HTMLTranslator()
        for seed in range(30):
            page = made(seed)
            rng = chance(seed)
            for found in derive(page, rng.sample(page.elements[3:], k=1)):
                self.assertEqual(list(found.matches), page.root.xpath(translator.css_to_xpath(found.selector)))

    def test_links_lead_where_they_lead_and_those_to_nowhere_are_left_out(self) -> None:
        html = '<a href="/b">1</a><a href="c#d">2</a><a href="mailto:x@y">3</a><a>4</a><a href=" //e.example/ ">5</a>'
        page = load_page(f"<body>{html}</body>".encode(), url=URL)
        self.assertEqual(
            {link.text: address for link, address in page.addresses.items()},
            {"1": "https://a.example/b", "2": "https://a.example/news/c#d", "5": "https://e.example/"},
        )

    def test_the_most_elements_and_the_deepest_nesting_are_told_apart(self) -> None:
        for html, code in (
            ("<p></p>" * (MOST_ELEMENTS + 1), "too_large"),
            ("<div>" * 201 + "x", "too_deep"),
        ):
            with self.assertRaises(ParseError) as caught:
                load_page(f"<body>{html}</body>".encode(), url=URL)
            self.assertEqual(caught.exception.code, code)


_PIECES = st.sampled_from(
    ["/", "a", "b.html", "..", ".", "//", ";x", "%2e", "~", "*", "-", "é", "\\", " ", ":", "@", "?q", "#f", "\t"]
)
_BASES = st.sampled_from(
    [
        *("https://a.example/x/y?z#f", "http://a.example", "https://a.example:8080/", "HTTP://A.example/p"),
        *("https://u@a.example/", "https://[::1]/x", "https://é.example/x", "", "/only/path"),
    ]
)
_STARTS = st.sampled_from(
    [
        *("", "", "https://a.example", "http://A.example:80", "https://a_b.example:8443/x", "HTTPS://a.example/"),
        *("https://a.example/a", "https://u@a.example/", "https://[::1]/", "https:a", "mailto:a@b.example"),
    ]
)


class Addresses(unittest.TestCase):
    @settings(max_examples=1500, deadline=None)
    @given(base=_BASES, start=_STARTS, pieces=st.lists(_PIECES, max_size=7))
    def test_are_put_together_as_the_standard_library_does(self, base: str, start: str, pieces: list[str]) -> None:
        address = start + "".join(pieces)
        full = urljoin(base, address.strip()) if address.strip() else ""
        self.assertEqual(resolve(base, address), full if full.lower().startswith(("http://", "https://")) else "")
