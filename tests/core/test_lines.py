"""Lines: paragraphs, list entries and text between breaks, removed and cut."""

from django.test import SimpleTestCase
from glyptarch_core.text import plain_text
from glyptarch_core.text.lines import lines_of
from glyptarch_core.text.markup import fragment, serialise
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_markup import MARKUP
from tests.core.test_shape_steps import Steps

LEFT = "Originally posted elsewhere"
DROP = {"kind": "drop_paragraphs", "terms": ["originally posted"]}


def texts(markup: str) -> list[str]:
    return [line.text for line in lines_of(fragment(markup))]


def letters(lines: list[str]) -> str:
    """Return the text of lines without spaces, because removing a block can join two lines."""
    return "".join("".join(lines).split())


class Lines(SimpleTestCase):
    def test_a_reader_takes_the_same_for_a_line_however_it_is_built(self) -> None:
        for markup in (
            "<p>One</p><p>Two</p>",
            "<div>One</div><div>Two</div>",
            "One<br>Two",
            "One<br><br>Two",
            "<div><div>One<p>Two</p></div></div>",
            "<ul><li>One</li><li>Two</li></ul>",
            "<span><p>One</p></span>Two",
            "<b>One<br>Two</b>",
            "<p>One</p><script>x()</script>Two",
        ):
            with self.subTest(markup):
                self.assertEqual(texts(markup), ["One", "Two"])

    def test_inline_elements_are_part_of_their_line(self) -> None:
        self.assertEqual(texts("A <b>bright</b> <i>one</i><p>x <a href='/'>y</a> z</p>"), ["A bright one", "x y z"])
        self.assertEqual(texts("<p> </p><p><img src='a.png'></p>"), [])

    @given(MARKUP)
    def test_the_lines_are_what_a_reader_sees(self, markup: str) -> None:
        seen = " ".join(plain_text(serialise(fragment(markup))).split())
        self.assertEqual(letters(texts(markup)), letters([seen]))

    @given(MARKUP, st.data())
    def test_what_is_taken_out_is_gone_and_nothing_else(self, markup: str, data: st.DataObject) -> None:
        root = fragment(markup)
        lines = list(lines_of(root))
        chosen = data.draw(st.sets(st.sampled_from(range(len(lines))))) if lines else set()
        for number in sorted(chosen, reverse=True):
            lines[number].remove(root)
        left = [line.text for number, line in enumerate(lines) if number not in chosen]
        self.assertEqual(letters(texts(serialise(root))), letters(left))

    @given(MARKUP, st.data())
    def test_a_cut_keeps_exactly_one_side(self, markup: str, data: st.DataObject) -> None:
        for side in ("before", "after"):
            root = fragment(markup)
            lines = list(lines_of(root))
            if not lines:
                return
            place = data.draw(st.integers(0, len(lines) - 1))
            if side == "after":
                lines[place].remove_after(root)
                kept = lines[: place + 1]
            else:
                lines[place].remove_before(root)
                kept = lines[place:]
            self.assertEqual(letters(texts(serialise(root))), letters([line.text for line in kept]))


class Leftovers(Steps):
    def test_a_leftover_goes_and_the_story_stays_however_the_body_is_built(self) -> None:
        for body, left in (
            (f"<p>Story.</p><p>{LEFT}</p>", "<p>Story.</p>"),
            (f"<div><p>Story.</p><p><em>{LEFT}</em></p></div>", "<div><p>Story.</p></div>"),
            (f"<div><div>Story.</div><div>{LEFT}</div></div>", "<div><div>Story.</div></div>"),
            (f"Story.<br><br>{LEFT}", "Story.<br>"),
            (f"<p>Story.<br>{LEFT} <a href='https://a.example/'>there</a></p>", "<p>Story.</p>"),
            (f"{LEFT}<br>Story.<br>More.", "Story.<br>More."),
            (f"Story.<br>{LEFT}<br>{LEFT} again<br>More.", "Story.<br>More."),
            (f"Story.<p>{LEFT}</p>More.", "Story.<br>More."),
            (f"<p>Story.</p>{LEFT}<p>More.</p>", "<p>Story.</p><p>More.</p>"),
            (f"<ul><li>Story.</li><li>{LEFT}</li></ul>", "<ul><li>Story.</li></ul>"),
            (f"<p>Story.</p><ul><li>{LEFT}</li></ul>", "<p>Story.</p>"),
        ):
            with self.subTest(body):
                self.assertEqual(self.body(body, DROP), left)

    def test_a_table_keeps_its_cells(self) -> None:
        made = self.body(f"<table><tr><td>{LEFT}</td><td>Story.</td></tr></table>", DROP)
        self.assertIn("<td></td><td>Story.</td>", made)

    def test_the_trace_names_what_went_in_its_order(self) -> None:
        note = self.note(f"<p>{LEFT} one</p><p>Story.</p><p>{LEFT} two</p>", **DROP)
        self.assertEqual(note["dropped"], [f"{LEFT} one", f"{LEFT} two"])


class Cuts(Steps):
    def test_a_body_that_is_wrapped_or_parted_by_breaks_is_cut_at_its_line(self) -> None:
        for body, after, before in (
            ("<p>One.</p><p>Read more</p><p>Two.</p>", "<p>One.</p>", "<p>Two.</p>"),
            ("<div><p>One.</p><p>Read more</p><p>Two.</p></div>", "<div><p>One.</p></div>", "<div><p>Two.</p></div>"),
            ("<div><div>One.</div><div>Read more</div></div><p>Two.</p>", "<div><div>One.</div></div>", "<p>Two.</p>"),
            ("One.<br>Read <b>more</b><br>Two.", "One.", "Two."),
            ("<p>One.<br>Read more</p>Two.", "<p>One.</p>", "Two."),
        ):
            with self.subTest(body):
                self.assertEqual(self.body(body, {"kind": "cut", "phrase": "read more"}), after)
                self.assertEqual(self.body(body, {"kind": "cut", "phrase": "read more", "side": "before"}), before)

    def test_the_line_itself_can_stay(self) -> None:
        step = {"kind": "cut", "phrase": "read more", "with_it": False}
        self.assertEqual(self.body("<div>One.<br>Read more<br>Two.</div>", step), "<div>One.<br>Read more</div>")
        self.assertEqual(self.body("<p>One.</p><p>Read more</p>", step), "<p>One.</p><p>Read more</p>")
        note = self.note("<p>One.</p><p>Read more</p>", **step)
        self.assertEqual(dict(note), {})

    def test_pictures_after_the_last_line_go_as_well(self) -> None:
        step = {"kind": "cut", "phrase": "read more", "with_it": False}
        made = self.body("<p>One. Read more</p><p><img src='https://a.example/1.png'></p>", step)
        self.assertEqual(made, "<p>One. Read more</p>")
