"""What differs between two texts.

What is replaced counts, what is missing or moved does not.
"""

from collections import Counter

from django.test import SimpleTestCase
from glyptarch_core.match.near import Told, told_by
from glyptarch_core.text import Differences, Passage, differences, fingerprint_of, likeness
from hypothesis import given
from hypothesis import strategies as st

from tests.core.likeness_pairs import likeness_pairs

SENTENCES = (
    "The ferry over the river runs again from Monday after a pause of three weeks.",
    "Its cable had torn in a storm, and a new one had to be ordered from the coast.",
    "Luke Hart tested it on Thursday with a load of stones.",
    "Walkers pay two euros, bicycles are free.",
)
STORY = " ".join(SENTENCES)
FORM = (
    "The ferry is steered this week by {} while the others are on leave.",
    "It is out of service on {} for the whole day.",
    "The last crossing of the week begins at {} sharp.",
    "Dogs cross free of charge and sit at the stern, where water comes in least.",
    "Who has no coins pays at the kiosk on the other bank and is trusted to do it.",
    "Whoever finds something in the boat hangs it on the nail beside the bell.",
)


def compared(one: str, other: str) -> Differences:
    return differences(Passage(one), Passage(other))


def replaced(one: str, other: str) -> list[tuple[str, str]]:
    return [(place.mine, place.theirs) for place in compared(one, other).replaced]


class Replaced(SimpleTestCase):
    def test_what_is_missing_or_moved_is_not_replaced(self) -> None:
        one, two, three, four = SENTENCES
        for other in (f"{one} {three} {four}", f"{two} {one} {four} {three}", f"{STORY} A new jetty is next."):
            with self.subTest(other):
                self.assertEqual((replaced(STORY, other), replaced(other, STORY)), ([], []))

    def test_what_is_replaced_is_told_with_both_texts(self) -> None:
        changed = STORY.replace("Monday", "Friday").replace("Luke Hart", "Ann Cole").replace("two euros", "3 euros")
        self.assertEqual(replaced(STORY, changed), [("Monday", "Friday"), ("Luke Hart", "Ann Cole"), ("two", "3")])

    def test_two_names_that_change_their_parts_are_replaced(self) -> None:
        form = "On Saturday evening {} beat {} in the regional league, and the coach praised his players."
        found = replaced(form.format("Weston", "Ashford"), form.format("Harlow", "Weston"))
        self.assertEqual(found, [("Weston beat Ashford", "Harlow beat Weston")])

    def test_a_name_weighs_more_than_a_word_and_a_word_more_than_a_near_figure(self) -> None:
        def share(old: str, new: str) -> float:
            return compared(STORY.replace("three weeks", "31 weeks"), STORY.replace(old, new)).share

        figure, word, name = share("three weeks", "29 weeks"), share("three weeks", "31 days"), 0.0
        name = compared(STORY, STORY.replace("Luke Hart", "Ann Cole")).share
        self.assertTrue(0 < figure < word < name, (figure, word, name))

    def test_where_nouns_have_capitals_a_capital_is_no_name(self) -> None:
        german = "Die Fähre über den Fluss fährt nach drei Wochen Pause wieder, und das Seil hält bei jedem Wetter gut."
        found = compared(german, german.replace("Pause", "Arbeit"))
        self.assertEqual((found.replaced_facts, len(found.replaced)), (0, 1))
        english = STORY.replace("Luke Hart", "Ann Cole")
        self.assertEqual(compared(STORY, english).replaced_facts, 1)

    def test_what_is_no_word_costs_no_time(self) -> None:
        one, other = (f"{STORY} {letter * 300_000} {STORY}." for letter in ("ab", "ba"))
        self.assertEqual(len(compared(one, other).replaced), 1)

    @given(st.text(max_size=150), st.text(max_size=150))
    def test_any_two_texts_can_be_compared_and_nothing_differs_from_itself(self, one: str, other: str) -> None:
        found = compared(one, other)
        self.assertGreaterEqual(found.share, 0)
        self.assertEqual(compared(one, one).share, 0)
        for place in found.replaced:
            self.assertIn(place.mine, one)
            self.assertIn(place.theirs, other)


class OneStory(SimpleTestCase):
    def test_forms_with_other_facts_are_other_stories_and_corrected_ones_are_the_same(self) -> None:
        told: Counter[tuple[str, bool, str]] = Counter()
        for pair in likeness_pairs():
            one, other = Passage(pair.one), Passage(pair.other)
            enough = likeness(fingerprint_of(one), fingerprint_of(other)).text >= 0.65
            told[pair.kind, pair.same, told_by(differences(one, other)) if enough else Told.OTHER] += 1
        self.assertEqual([key for key in told if key[1] and key[2] is not Told.SAME], [])
        self.assertEqual([key for key in told if not key[1] and key[2] is Told.SAME], [])
        # A person is asked in few cases only.
        doubtful = sum(times for (_, _, said), times in told.items() if said is Told.DOUBTFUL)
        self.assertLessEqual(doubtful, 5)
        self.assertGreater(told.total(), 70)

    def test_a_long_form_with_other_facts_is_another_notice_too(self) -> None:
        form = " ".join(
            f"{sentence} Part {word} of the rules says that boats wait below the weir until the lamp shows green."
            for sentence, word in zip(FORM, ("one", "two", "three", "four", "five", "six"), strict=True)
        )
        found = compared(form.format("Ann Cole", "Friday 3", "19:30"), form.format("Luke Hart", "Sunday 12", "14:00"))
        self.assertLess(found.share, 0.055)
        self.assertIs(told_by(found), Told.OTHER)

    def test_an_only_figure_is_for_a_person_to_decide(self) -> None:
        text = "A walker found a purse with {} coins by the old wall and has brought it to the office in the mill."
        found = compared(text.format(40), text.format(70))
        self.assertIs(told_by(found), Told.DOUBTFUL)
