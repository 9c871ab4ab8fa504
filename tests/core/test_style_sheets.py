"""Style sheets of strangers: however they are spelled, nothing in them loads from elsewhere."""

import time
from collections.abc import Iterator
from typing import Any
from urllib.parse import urljoin

import tinycss2
from django.test import SimpleTestCase
from glyptarch_core.text.style_sheets import safe_declarations, safe_style_sheet
from hypothesis import given
from hypothesis import strategies as st

OURS = "/api/ours/"
HOSTILE = (
    "@import url(https://evil.example/x.css);",
    "@import 'https://evil.example/x.css' screen;",
    "@im@im@import;portport 'https://evil.example/x.css';",
    "@\\69mport 'https://evil.example/y.css';",
    "@/**/import 'https://evil.example/y.css';",
    "p{@import 'https://evil.example/z.css';color:red}",
    "@media all{@import 'https://evil.example/z.css';}",
    "@font-face{font-family:x;src:url(https://evil.example/f.woff)}",
    "p{background:u\\72l(https://evil.example/p.png)}",
    "p{background:URL( 'https://evil.example/p.png' )}",
    "p{background:url(https://evil.example/p.png",
    "p{background:image-set('https://evil.example/p.png' 1x)}",
    "p{background:-webkit-image-set(url(https://evil.example/p.png) 1x)}",
    "p{background:image-set(url(https://evil.example/p.png) 1x, 'https://evil.example/q.png' 2x)}",
    "p{content:url(//evil.example/p.png)}",
    "@namespace url(https://evil.example/ns);",
    "a{--x:url(https://evil.example/v.png)}",
)


def everything(nodes: Any) -> Iterator[Any]:  # noqa: ANN401
    for node in nodes or ():
        yield node
        for part in ("prelude", "content", "arguments"):
            yield from everything(getattr(node, part, None))


def faults(css: str) -> list[str]:
    """Return what of a style sheet would load something that is not ours."""
    results = []
    for node in everything(tinycss2.parse_stylesheet(css)):
        name = getattr(node, "lower_name", "")
        if getattr(node, "lower_at_keyword", "") in {"import", "font-face", "namespace"}:
            results.append(node.lower_at_keyword)
        if node.type == "url" and not node.value.startswith(OURS):
            results.append(node.value)
        if name == "url" and not all(part.value.startswith(OURS) for part in node.arguments if part.type == "string"):
            results.append(name)
        if "image-set" in name or name == "src":
            results.append(name)
    return results


def safe(css: str) -> str:
    return safe_style_sheet(
        css, lambda address: urljoin("https://a.example/news/", address), lambda _address: OURS + "1"
    )


class StyleSheets(SimpleTestCase):
    def test_nothing_loads_from_elsewhere(self) -> None:
        for css in HOSTILE:
            with self.subTest(css):
                self.assertEqual(faults(safe(css)), [])

    @given(
        st.lists(
            st.sampled_from([*HOSTILE, "@import", "}", "{", "/*", "*/", "'", '"', "\\", ";", "url(", "<!--", "-->"]),
            max_size=6,
        )
    )
    def test_nor_does_it_however_pieces_are_put_together(self, pieces: list[str]) -> None:
        self.assertEqual(faults(safe("".join(pieces))), [])

    def test_what_it_looks_like_stays(self) -> None:
        css = "@media (min-width: 40em) { .lead > p:first-child { color: #345; margin: 0 1.5em calc(1px + 2em) } }"
        cleaned = safe(css)
        for part in ("@media", "(min-width: 40em)", ".lead > p:first-child", "#345", "calc(1px + 2em)"):
            self.assertIn(part, cleaned)
        self.assertIn(f'url("{OURS}1")', safe("p{background:url(/p.png) no-repeat}"))

    def test_it_cannot_close_its_element(self) -> None:
        for css in (
            "a{} </style><script>x()</script>",
            "a{content:'</style>'}",
            "</style>",
            "a::before{content:'\\3c/style>'}",
        ):
            self.assertNotIn("</", safe(css), css)
            self.assertNotIn("</", safe_declarations(css, str, str), css)

    def test_what_is_nested_or_left_open_without_end_costs_little(self) -> None:
        begun = time.process_time()
        for piece in ("(", "{", "@media x{", "url(", "/*", "a{", "[", "'"):
            self.assertEqual(faults(safe(piece * 60_000)), [])
        self.assertLess(time.process_time() - begun, 20)
