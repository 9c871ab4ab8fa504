"""One pass against itself and memory, compared with a plain implementation of the rules."""

from collections.abc import Collection, Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any

from django.test import SimpleTestCase
from glyptarch_core.campaign import load_document
from glyptarch_core.item import Captured
from glyptarch_core.match import keys_of, match_batch
from glyptarch_core.ports import Candidate, Key, KeyKind, Near, PostRef, Reach, Scope, Seen
from glyptarch_core.testing import NOON, FakeMemory, captured
from glyptarch_core.text import Passage, fingerprint_of, title_key
from hypothesis import given
from hypothesis import strategies as st

LINKS = st.sampled_from(["https://a.example/1", "https://a.example/2", "https://b.example/3", ""])
TITLES = st.sampled_from(["A comet in the west", "The moon over the mill", "Nine fireballs in one night", "Notice"])
KINDS = ("identity", "link", "title")


def settings(*kinds: str, **more: Any) -> Any:  # noqa: ANN401
    rules = [{"id": kind.replace("_", "-"), "kind": kind} for kind in kinds]
    return load_document({"match": {"rules": rules, **more}}).match


@st.composite
def batches(draw: st.DrawFn) -> list[tuple[int, Captured]]:
    drawn = draw(st.lists(st.tuples(LINKS, TITLES, st.integers(0, 5)), max_size=12))
    return [
        (
            place,
            captured(f"n{place}", link=link, title=title, published=NOON - timedelta(hours=hours)),
        )
        for place, (link, title, hours) in enumerate(drawn)
    ]


def plainly(batch: Sequence[tuple[int, Captured]], known: Mapping[Key, Seen]) -> dict[int, set[str]]:
    """Return for each item the kinds of its duplicates, by looking every key up in turn."""
    wanted = {KeyKind(kind) for kind in KINDS}
    met: set[Key] = set()
    said: dict[int, set[str]] = {}
    for place, one in sorted(batch, key=lambda pair: (pair[1].dated, pair[1].item.source, pair[1].item.identity)):
        keys = [key for key in keys_of(one) if key.kind in wanted]
        keys = [key for key in keys if key.kind is not KeyKind.TITLE or len(key.value.split()) >= 3]
        said[place] = {key.kind.value for key in keys if key in known or key in met}
        met.update(keys)
    return said


class AgainstItself(SimpleTestCase):
    @given(batches(), st.sets(st.sampled_from([("link", "https://a.example/1"), ("title", "a comet in the west")])))
    def test_the_same_is_found_as_by_looking_up_every_key(
        self, batch: list[tuple[int, Captured]], remembered: set[tuple[str, str]]
    ) -> None:
        known = {}
        for kind, value in remembered:
            text = title_key(value) if kind == "title" else captured(link=value).features.link_key
            known[Key(KeyKind(kind), text)] = Seen(ref=PostRef(1, 1), title="Old", link="", at=NOON)
        matched = match_batch(batch, settings(*KINDS), memory=FakeMemory(known), now=NOON)
        found = {place: {note.rule for note in one.notes if note.against} for place, one in matched.items()}
        self.assertEqual(found, plainly(batch, known))

    @given(batches())
    def test_every_item_has_an_answer_and_one_of_each_likes_stays(self, batch: list[tuple[int, Captured]]) -> None:
        matched = match_batch(batch, settings("title"), memory=FakeMemory(), now=NOON)
        self.assertEqual(set(matched), {place for place, _ in batch})
        long = [(place, one) for place, one in batch if len(one.features.title_key.split()) >= 3]
        stays = [one.features.title_key for place, one in long if not matched[place].duplicate]
        self.assertEqual(sorted(stays), sorted({one.features.title_key for _, one in long}))

    def test_the_longest_stays_where_that_is_preferred(self) -> None:
        short, long = captured("s", title="A comet in the west"), captured(
            "l", title="A comet in the west", body="<p>Many more words than the other one has to say of it.</p>",
            published=NOON + timedelta(hours=1),
        )  # fmt: skip
        matched = match_batch(
            [(0, short), (1, long)], settings("title", prefer=["longest"]), memory=FakeMemory(), now=NOON
        )
        self.assertEqual([matched[place].duplicate for place in (0, 1)], [True, False])

    def test_the_note_names_what_it_is_like(self) -> None:
        first, second = captured("a", title="A comet in the west"), captured("b", title="a comet IN the west!")
        note = match_batch([(0, first), (1, second)], settings("title"), memory=FakeMemory(), now=NOON)[1].notes[0]
        self.assertEqual((note.data["within_pass"], note.data["title"]), (True, "A comet in the west"))
        self.assertEqual(note.data["ref"], "item:club:a")


STORY = " ".join(f"word{number}" for number in range(60))


class AsksMemory(SimpleTestCase):
    class Recording(FakeMemory):
        def __init__(self, candidates: Sequence[Candidate] = ()) -> None:
            super().__init__(candidates=candidates)
            self.reaches: list[Reach] = []
            self.asked: list[tuple[Near, int]] = []

        def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
            self.reaches.append(reach)
            return super().recall(keys, reach)

        def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> Sequence[Sequence[Candidate]]:
            self.asked.append((near, len(keys)))
            return super().resembling(near, keys, reach)

    def test_as_far_as_the_settings_reach(self) -> None:
        memory = self.Recording()
        wide = settings("link", against="everything", within_days=7, let_refused_back=True)
        match_batch([(0, captured())], wide, memory=memory, now=NOON)
        self.assertEqual(memory.reaches, [Reach(scope=Scope.EVERYTHING, since=NOON - timedelta(days=7), refused=False)])

    def test_once_for_each_likeness_and_not_for_what_is_too_short(self) -> None:
        memory = self.Recording()
        batch = [(0, captured("a", body=f"<p>{STORY}</p>")), (1, captured("b", body="<p>Short.</p>"))]
        match_batch(batch, settings("near_text", "near_title"), memory=memory, now=NOON)
        self.assertEqual(memory.asked, [(Near.TEXT, 1), (Near.TITLE, 2)])

    def test_not_of_likenesses_where_an_exact_rule_has_spoken(self) -> None:
        one = captured(body=f"<p>{STORY}</p>")
        memory = self.Recording()
        memory.seen = {key: Seen(ref=PostRef(1, 1), title="Old", link="", at=NOON) for key in keys_of(one)}
        matched = match_batch([(0, one)], settings("link", "near_text"), memory=memory, now=NOON)
        self.assertEqual((matched[0].duplicate, memory.asked), (True, []))

    def test_what_is_like_a_post_only_by_its_text_is_found(self) -> None:
        passage = Passage.of_text(STORY)
        old = Candidate(
            seen=Seen(ref=PostRef(5, 1), title="Old", link="", at=NOON),
            main_text=passage,
            fingerprint=fingerprint_of(passage),
            title_key="old",
        )
        one = captured(body=f"<p>{STORY} and a little more</p>")
        matched = match_batch([(0, one)], settings("near_text"), memory=self.Recording([old]), now=NOON)
        self.assertEqual(matched[0].notes[0].data["ref"], "post:5")

    def test_a_like_of_the_same_pass_is_found_though_memory_knows_nothing(self) -> None:
        batch = [
            (0, captured("a", title="One way to say it", body=f"<p>{STORY}</p>")),
            (1, captured("b", title="Quite another way", body=f"<p>{STORY} with an end</p>", published=self.later())),
        ]
        matched = match_batch(batch, settings("near_text"), memory=self.Recording(), now=NOON)
        self.assertEqual([matched[place].duplicate for place in (0, 1)], [False, True])

    def test_of_several_with_one_link_the_first_is_still_held_against_texts_before_it(self) -> None:
        def one(name: str, link: str, hours: int) -> Captured:
            body, at = f"<p>{STORY} {name}</p>", NOON + timedelta(hours=hours)
            return captured(name, title=f"Told by {name}", link=f"https://a.example/{link}", body=body, published=at)

        batch = [(0, one("a", "1", 0)), (1, one("b", "2", 1)), (2, one("c", "2", 2))]
        matched = match_batch(batch, settings("link", "near_text"), memory=self.Recording(), now=NOON)
        self.assertEqual([matched[place].duplicate for place in (0, 1, 2)], [False, True, True])
        rules = [[note.rule for note in matched[place].notes] for place in (1, 2)]
        self.assertEqual(rules, [["near-text"], ["link"]])

    @staticmethod
    def later() -> datetime:
        return NOON + timedelta(hours=2)
