"""The rights of a source override every template, and the trace says so."""

import base64
import re
from collections.abc import Callable
from dataclasses import replace
from typing import Any
from urllib.parse import unquote_plus

from django.test import SimpleTestCase
from glyptarch_core.item import Captured, Media, MediaKind, MediaOrigin, Right, Rights
from glyptarch_core.pipeline import decide
from glyptarch_core.shape.stage import begun
from glyptarch_core.shape.templates import variables
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import Passage, plain_text, shares_run
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

    def test_the_summary_of_a_source_is_its_text_as_well(self) -> None:
        summary = "The old dome on the ridge opens its doors to everybody tonight."
        item = with_rights(captured(body="<p>Another text.</p>", summary=f"<p>{summary}</p>"), right=Right.LINK)
        decision = made(item, shape={"title": summary})
        assert decision.draft is not None
        self.assertEqual(decision.draft.title, item.item.title)

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


SENTENCE = "the keeper of the northern dome wrote down every star that fell between the old mill and the weir before dawn came up"
CHINESE = "今天晚上在山上举行了新的观测会我们可以看到很多流星和一颗明亮的彗星天气很好欢迎大家来参加"
THAI = "คืนนี้เราจะได้เห็นดาวตกจำนวนมากเหนือเนินเขาและดาวหางที่สว่างไสวใกล้แม่น้ำ"


def _from_base64(text: str) -> str:
    """Return what is hidden in a text, as far as whole groups of it are there (RFC 4648, 4)."""
    letters = re.sub(r"[^A-Za-z0-9+/]", "", text)
    return base64.b64decode(letters[: len(letters) // 4 * 4]).decode(errors="ignore")


NAMES = tuple(
    "lantern granary willow harbour thistle copper meadow orchard quarry saddle tunnel velvet walnut yonder basket candle "
    "dagger ember falcon gravel hollow ivory jasper kettle".split()
)


def revealed(shown: str) -> list[str]:
    """Return the names that can be read in a text, also with hyphens inside."""
    return [name for name in NAMES if name in shown or name in shown.replace("-", "")]


def runs(text: str, size: int) -> set[tuple[str, ...]]:
    words = Passage(text).words
    return {words[start : start + size] for start in range(len(words) - size + 1)}


class EveryText(SimpleTestCase):
    """No document publishes more of a source's text than is allowed."""

    TEMPLATES = (
        "{{ title }}",
        "{{ body }}",
        "{{ excerpt }}",
        "{{ body | strip_html }}",
        "Read: {{ body | strip_html }} {{ title }}",
    )

    def texts(self, decision: Decision) -> list[str]:
        draft = decision.draft
        assert draft is not None
        shown = [draft.title, plain_text(draft.body), draft.excerpt, draft.description, draft.address]
        shown += [plain_text(str(field.value)) for field in draft.fields]
        shown += re.findall(r'(?:alt|title)="([^"]*)"', draft.body)
        return [*shown, draft.lead.alt if draft.lead else ""]

    def holds(self, text: str, source: str, most: int) -> bool:
        return shares_run(Passage(text).words, Passage(source).words, most)

    @given(
        st.sampled_from([SENTENCE, CHINESE, THAI]),
        st.integers(3, 12),
        st.lists(st.sampled_from(TEMPLATES), min_size=5, max_size=5),
        st.booleans(),
    )
    def test_no_run_of_more_words_than_allowed_stands_in_any_text(
        self,
        text: str,
        words: int,
        templates: list[str],
        link_only: bool,  # noqa: FBT001
    ) -> None:
        picture = replace(PICTURE, alt=text)
        body = f'<p title="{text}">{text}</p><p><img src="https://club.example/x.png" alt="{text}"></p>'
        item = captured(body=body, summary=f"<p>{text}</p>", title="A night out", media=(picture,))
        rights = {"right": Right.LINK} if link_only else {"right": Right.EXCERPT, "words": words}
        title, shaped, excerpt, description, field = templates
        parts = {
            "title": title, "body": shaped, "excerpt_text": excerpt, "description": description, "address": field,
            "fields": [{"id": kind.replace("_", "-"), "name": kind, "type": kind, "value": field} for kind in ("text", "rich_text")],
        }  # fmt: skip
        decision = made(with_rights(item, **rights), shape=parts)
        for shown in self.texts(decision):
            self.assertFalse(self.holds(shown, text, 3 if link_only else words), shown)

    @given(
        st.sampled_from([SENTENCE, CHINESE, THAI]),
        st.sampled_from(["body", "summary", "transcript", "alt", "category", "title"]),
        st.integers(3, 12),
        st.booleans(),
    )
    def test_whatever_came_in_and_wherever_it_goes_out_one_budget_holds(
        self,
        text: str,
        way_in: str,
        words: int,
        link_only: bool,  # noqa: FBT001
    ) -> None:
        item = captured(
            body=f"<p>{text}</p>" if way_in in {"body", "title"} else "<p>Other.</p>",
            summary=f"<p>{text}</p>" if way_in == "summary" else "",
            # A short note has its text as its title.
            title=text if way_in == "title" else "A night out",
            facts={"transcript": text} if way_in == "transcript" else {},
            categories=(text,) if way_in == "category" else (),
            media=tuple(replace(PICTURE, url=f"https://club.example/{n}.jpg", alt=text) for n in range(3)) if way_in == "alt" else (),
        )  # fmt: skip
        rights = {"right": Right.LINK} if link_only else {"right": Right.EXCERPT, "words": words}
        shown = "{{ body | strip_html }} {{ title }} {{ excerpt }} {{ facts.transcript }} {{ categories | join: ' ' }} {{ lead.alt }}"
        fields = [
            {
                "id": f"f{start}",
                "name": f"f{start}",
                "type": "rich_text" if start % 20 else "text",
                "value": f"{{% capture all %}}{shown}{{% endcapture %}}{{% assign parts = all | split: ' ' %}}"
                f"{{{{ parts | slice: {start}, 10 | join: ' ' }}}}",
            }
            for start in range(0, 120, 10)
        ]
        address = f"{{% capture all %}}{shown}{{% endcapture %}}https://club.example/?q={{{{ all | url_encode }}}}"
        fields.append({"id": "link", "name": "link", "type": "link", "value": address})
        shape = {"title": shown, "body": f"<p>{shown}</p>", "excerpt_text": shown, "description": shown, "address": shown, "fields": fields}  # fmt: skip
        decision = made(with_rights(item, **rights), shape=shape, place={"tag_rules": [{"id": "t", "kind": "source"}]})
        draft = decision.draft
        assert draft is not None, decision.trace
        out = [*self.texts(decision), *draft.tags, *(lead.alt for lead in draft.spare_leads)]
        out = [unquote_plus(one) for one in out]
        free = 12 if way_in == "title" else 0
        size = min(4, words + 1) if not link_only else 4
        source = runs(text, size)
        carried = {run for one in out for run in runs(one, size)} & source
        self.assertLessEqual(len(carried), max(0, (0 if link_only else words) + free - size + 1), out)

    HIDING: tuple[tuple[str, Callable[[str], str]], ...] = (
        ("url_encode", unquote_plus),
        ("replace: 'e', 'e-'", lambda text: text.replace("-", "")),
        ("split: '' | join: ' '", lambda text: text.replace(" ", "")),
        ("replace: ' ', 'q'", lambda text: text),
        ("split: ' ' | join: ' mill '", lambda text: text),
        ("split: ' ' | reverse | join: ' '", lambda text: text),
        ("base64_encode", _from_base64),
    )
    WAYS_IN = ("title", "body", "excerpt", "facts.transcript", "categories | join: ' '", "author", "lead.alt")

    @given(
        st.sampled_from(HIDING), st.sampled_from(WAYS_IN), st.integers(1, 6), st.booleans(),
        st.sampled_from(["title", "body", "excerpt_text", "description", "address", "field", "standing"]),
    )  # fmt: skip
    def test_a_filter_that_changes_each_word_gets_no_more_out(
        self,
        hiding: tuple[str, Callable[[str], str]],
        way_in: str,
        words: int,
        link_only: bool,  # noqa: FBT001
        way_out: str,
    ) -> None:
        text = " ".join(NAMES)
        item = captured(
            # A short note has its text as its title.
            title=text if way_in == "title" else "A night out", body=f"<p>{text}</p>", summary=f"<p>{text}</p>",
            facts={"transcript": text}, categories=(text,), authors=(text,), media=(replace(PICTURE, alt=text),),
        )  # fmt: skip
        rights = {"right": Right.LINK} if link_only else {"right": Right.EXCERPT, "words": words}
        name, *others = way_in.split(" | ")
        template = "{{ " + " | ".join([name, *others, "strip_html", hiding[0]]) + " }}"
        if way_out == "field":
            shape: dict[str, Any] = {"fields": [{"id": "f", "name": "f", "type": "text", "value": template}]}
        elif way_out == "standing":
            shape = {"steps": [{"id": "s", "kind": "standing", "side": "before", "variants": [template]}]}
        else:
            shape = {way_out: template}
        decision = made(with_rights(item, **rights), shape=shape)
        out = [hiding[1](shown) for shown in self.texts(decision)]
        # Fewer than four words of a stated value are no text of anybody's, and a title may always be carried.
        most = max(3, 0 if link_only else words) + (12 if way_in == "title" else 0)
        for shown in out:
            self.assertLessEqual(len(revealed(shown)), most, (template, out))

    def test_words_that_a_step_changes_are_spent_as_well(self) -> None:
        changed = [{"id": f"s{place}", "kind": "replace", "what": NAMES[place], "by": "x"} for place in range(0, 7, 3)]
        item = captured(
            body=f"<p>{' '.join(NAMES[:7])}</p>", summary=f"<p>{' '.join(NAMES[7:])}</p>", title="A night out"
        )
        shape = {"steps": changed, "excerpt": {"taken_from": "summary"}, "body": "{{ body }}"}
        draft = made(with_rights(item, right=Right.EXCERPT, words=5), shape=shape).draft
        assert draft is not None
        self.assertEqual(len(revealed(draft.excerpt)), 5)
        self.assertEqual(revealed(plain_text(draft.body)), [])

    def test_what_the_blog_says_of_its_own_picture_costs_nothing(self) -> None:
        item = with_rights(captured(body="<p>Short.</p>"), right=Right.EXCERPT, words=5)
        own = replace(
            PICTURE, origin=MediaOrigin.BLOG, alt="A long description of the ridge at night by the blog itself"
        )
        values = variables(item, begun(item, item.item.body), frozenset({"lead.alt"}), excerpt="", lead=own)
        self.assertEqual(values["lead"]["alt"], own.alt)
        values = variables(
            item,
            begun(item, item.item.body),
            frozenset({"lead.alt"}),
            excerpt="",
            lead=replace(own, origin=MediaOrigin.FEED),
        )
        self.assertEqual(values["lead"]["alt"], "A long description of the…")

    def test_a_source_s_text_that_somebody_wrote_into_a_layout_is_cut_too(self) -> None:
        item = with_rights(captured(body=f"<p>{SENTENCE}</p>"), right=Right.EXCERPT, words=5)
        kinds = ("text", "rich_text")
        fields = [{"id": kind.replace("_", "-"), "name": kind, "type": kind, "value": SENTENCE} for kind in kinds]
        draft = made(item, shape={"fields": fields}).draft
        assert draft is not None
        self.assertEqual({plain_text(str(field.value)) for field in draft.fields}, {"the keeper of the northern…"})
        parts = SENTENCE.split()
        fields = [
            {
                "id": f"f{start}",
                "name": f"f{start}",
                "type": kinds[start % 2],
                "value": " ".join(parts[start : start + 5]),
            }
            for start in (0, 5, 10, 15)
        ]
        draft = made(item, shape={"fields": fields}).draft
        assert draft is not None
        shown = [run for field in draft.fields for run in runs(plain_text(str(field.value)), 4)]
        self.assertEqual(len(shown), 2)

    def test_a_link_only_keeps_the_blog_s_own_tags(self) -> None:
        item = with_rights(captured(categories=("Comets", "Club news")), right=Right.LINK)
        decision = made(item, place={"tags": ["Ridge"], "tag_rules": [{"id": "t", "kind": "source"}]})
        assert decision.draft is not None
        self.assertEqual(decision.draft.tags, ("Ridge",))

    def test_what_is_within_the_limit_stays_as_it_was_made(self) -> None:
        item = with_rights(captured(body="<p>Five words, <b>and</b> no more.</p>"), right=Right.EXCERPT, words=30)
        decision = made(item)
        assert decision.draft is not None
        self.assertEqual(
            (decision.draft.body, code(decision)), ("<p>Five words, <b>and</b> no more.</p>", "rights.kept")
        )

    def test_a_title_of_the_blog_s_own_stays_where_only_a_link_is_allowed(self) -> None:
        item = with_rights(captured(title="Ice on the pond", body=f"<p>{SENTENCE}</p>"), right=Right.LINK)
        decision = made(item, shape={"title": "From the club: {{ title }}"})
        assert decision.draft is not None
        self.assertEqual(decision.draft.title, "From the club: Ice on the pond")
