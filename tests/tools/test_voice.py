"""The check of wording finds what it is for, and nothing in plain sentences."""

from django.test import SimpleTestCase

from tools.voice import faults_of_source, faults_of_subject

PLAIN = '''"""Rules of a campaign."""


def load_rules(path, *, strict=False):
    """Return the rules in a file. Raises OSError.

    ``strict`` refuses unknown keys; the format is YAML 1.2.
    """
    # YAML 1.1 reads a bare "on" as true, so the version is set.
    return path, strict
'''


class Sources(SimpleTestCase):
    def faults(self, old: str, new: str, *, names: bool = True) -> list[str]:
        source = PLAIN.replace(old, new)
        self.assertTrue(not old or source != PLAIN, "the case changes nothing")
        return [fault for _, fault in faults_of_source(source, names=names)]

    def test_plain_sentences_pass(self) -> None:
        self.assertEqual(self.faults("", ""), [])

    def test_worn_beginnings_and_words_are_named_with_their_remedy(self) -> None:
        for old, new, remedy in (
            ("Return the rules", "Give the rules", "write Return or Yield"),
            ("Return the rules in a file", "Tell whether rules hold", "write Whether"),
            ("refuses unknown keys", "is for whoever wants it", "name the person or program"),
            ("so the version is set", "so that true is had", "write fetch, read or get"),
        ):
            with self.subTest(new):
                (fault,) = self.faults(old, new)
                self.assertIn(remedy, fault)

    def test_a_first_line_is_short_and_one_sentence(self) -> None:
        self.assertIn("over 90 characters", self.faults("in a file", "in a file " + "of some kind " * 8)[0])
        self.assertIn("semicolon", self.faults("in a file.", "in a file; none where there is no file.")[0])
        self.assertEqual(self.faults("in a file.", "in a file (RFC 6749, 4.1; RFC 7636)."), [])

    def test_parameters_of_public_functions_have_names_that_say_something(self) -> None:
        self.assertIn("“given” of load_rules says too little", self.faults("path", "given")[0])
        self.assertIn("“z” of load_rules is one letter", self.faults("path", "z")[0])
        self.assertEqual(self.faults("path", "given", names=False), [])
        self.assertEqual(self.faults("load_rules(path", "_load_rules(given"), [])

    def test_a_fault_has_its_line(self) -> None:
        source = PLAIN.replace("so the version is set", "so that true is had")
        self.assertEqual([line for line, _ in faults_of_source(source)], [9])


class Subjects(SimpleTestCase):
    def test_an_imperative_of_at_most_72_characters_passes(self) -> None:
        for subject in ("Match near texts lazily for items with an exact key", "Feed the pool by label"):
            self.assertEqual(list(faults_of_subject(subject)), [], subject)

    def test_other_forms_are_refused(self) -> None:
        for subject in ("Added a cache", "Adding a cache", "Add a cache.", "add a cache", "Add " + "x" * 70):
            self.assertEqual(len(list(faults_of_subject(subject))), 1, subject)
