"""Caches of words stay small for any texts."""

from django.test import SimpleTestCase
from glyptarch_core.text.caching import LONGEST_CACHED, MOST_CACHED, of_words


class WordCache(SimpleTestCase):
    def setUp(self) -> None:
        self.asked: list[str] = []
        self.look_up = of_words(lambda word: self.asked.append(word) or word.upper())  # type: ignore[func-returns-value]

    def test_a_word_is_worked_out_once(self) -> None:
        self.assertEqual([self.look_up("comet"), self.look_up("comet")], ["COMET", "COMET"])
        self.assertEqual(self.asked, ["comet"])

    def test_a_long_word_is_not_kept(self) -> None:
        longest, longer = "x" * LONGEST_CACHED, "y" * (LONGEST_CACHED + 1)
        for word in (longest, longest, longer, longer):
            self.look_up(word)
        self.assertEqual(self.asked, [longest, longer, longer])

    def test_the_word_not_asked_for_longest_gives_way(self) -> None:
        for number in range(MOST_CACHED + 1):
            self.look_up(str(number))
        self.look_up(str(MOST_CACHED))
        self.look_up("0")
        self.assertEqual(self.asked[MOST_CACHED + 1 :], ["0"])
