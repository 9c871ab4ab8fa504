"""What a source allows is held over any template, and the trace says so."""

from dataclasses import replace
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.item import Captured, Media, MediaKind, MediaOrigin, Right, Rights
from glyptarch_core.pipeline import decide
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import plain_text
from glyptarch_core.trace import Decision
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_stages import document

PICTURE = Media(url="https://club.example/p.jpg", kind=MediaKind.PICTURE, origin=MediaOrigin.FEED)
LONG = captured(body=f"<p>{'word ' * 60}</p><p>{'more ' * 60}</p>", summary="<p>Sum.</p>", media=(PICTURE,))


def with_rights(item: Captured, **rights: Any) -> Captured:  # noqa: ANN401
    return Captured(
        item=item.item,
        features=item.features,
        source=replace(item.source, rights=Rights(**rights)),
        captured_at=item.captured_at,
    )


def made(item: Captured, **parts: Any) -> Decision:  # noqa: ANN401
    return decide([item], document(**parts), memory=FakeMemory(), now=NOON)[0]


def code(decision: Decision) -> str:
    return next(note.code for note in decision.trace if note.code.startswith("rights."))


class SourceRights(SimpleTestCase):
    def test_full_text_goes_out_as_it_is(self) -> None:
        decision = made(LONG)
        assert decision.draft is not None
        self.assertEqual((len(plain_text(decision.draft.body).split()), code(decision)), (120, "rights.kept"))

    def test_an_excerpt_is_never_longer_than_allowed_whatever_the_template(self) -> None:
        item = with_rights(LONG, right=Right.EXCERPT, words=40)
        for body in ("{{ body }}", "{{ body }}{{ body }}", "<p>{{ excerpt }}</p>{{ body }}"):
            with self.subTest(body):
                decision = made(item, shape={"body": body})
                assert decision.draft is not None
                self.assertLessEqual(len(plain_text(decision.draft.body).split()), 40)
                self.assertEqual(code(decision), "rights.cut")

    def test_a_link_only_leaves_no_text_and_no_picture(self) -> None:
        decision = made(with_rights(LONG, right=Right.LINK))
        assert decision.draft is not None
        self.assertEqual((decision.draft.body, decision.draft.excerpt, decision.draft.lead), ("", "", None))
        self.assertEqual((decision.draft.link, code(decision)), ("https://club.example/one", "rights.link"))

    def test_the_line_that_a_source_asks_for_goes_with_the_post(self) -> None:
        decision = made(with_rights(LONG, attribution="Courtesy of the club"))
        assert decision.draft is not None
        self.assertEqual(decision.draft.attribution, "Courtesy of the club")

    @given(
        st.integers(1, 60),
        st.lists(st.sampled_from(["<p>a b c</p>", "<b>d e", "f</b> g", "<ul><li>h i</li></ul>"]), max_size=8),
    )
    def test_no_markup_gets_around_the_limit(self, words: int, parts: list[str]) -> None:
        item = with_rights(captured(body="".join(parts) or "x"), right=Right.EXCERPT, words=words)
        decision = made(item)
        assert decision.draft is not None
        self.assertLessEqual(len(plain_text(decision.draft.body).split()), words)
