"""The ends of sentences in eight languages, on an invented set."""

from django.test import SimpleTestCase
from glyptarch_core.text import sentences

from benchmarks.sentence_set import LANGUAGES, paragraphs


class EveryLanguage(SimpleTestCase):
    def test_paragraphs_are_split_where_their_sentences_end(self) -> None:
        for language in LANGUAGES:
            gap = "" if language == "zh" else " "
            wrong = [parts for parts in paragraphs(language) if sentences(gap.join(parts)) != parts]
            self.assertEqual(wrong, [], language)
