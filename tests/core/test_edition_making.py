"""An edition of a post: what is asked, and how the answers become its texts."""

from unittest import TestCase

from glyptarch_core.campaign import load_document
from glyptarch_core.editions import EditionPlan, EditionTexts, LanguageDocument, block_texts, languages_of
from glyptarch_core.errors import DocumentError
from glyptarch_core.item import Right
from glyptarch_core.language_services import Answer, Ask, FixedWord

BODY = (
    '<p>The <a href="https://dome.example/">dome</a> opens at 20:00 on the ridge, whatever the weather.</p>'
    '<ul><li>Bring a lamp</li></ul><img src="https://dome.example/1.png" alt="A dome"><p hidden>Secret words</p>'
)
TEXTS = EditionTexts(
    title="The dome opens",
    body=BODY,
    excerpt="The dome opens at 20:00 on the…",
    description="Told by Ada.",
    labels=("Place", "Seats"),
    values=("On the ridge", ""),
)


def plan(texts: EditionTexts = TEXTS, **order: object) -> EditionPlan:
    given = {"services": ("machine",), "source": "en", "target": "de"} | order
    return EditionPlan(texts, **given)  # type: ignore[arg-type]


def loud(asks: list[Ask]) -> dict[str, Answer]:
    return {ask.key: Answer(text=ask.text.upper(), by="machine") for ask in asks}


class Plans(TestCase):
    def test_what_is_asked(self) -> None:
        asked = plan()
        self.assertEqual(
            list(zip(asked.part_names, [ask.text for ask in asked.asks], strict=True)),
            [
                ("title", "The dome opens"),
                ("description", "Told by Ada."),
                ("field", "Place"),
                ("field", "Seats"),
                ("field", "On the ridge"),
                ("body", "The ⟦1⟧dome⟦/1⟧ opens at 20:00 on the ridge, whatever the weather."),
                ("body", "Bring a lamp"),
                ("body", "A dome"),
            ],
        )
        self.assertEqual(asked.cut_parts, {"excerpt"})

    def test_nothing_hidden_and_no_address_is_told(self) -> None:
        told = " ".join(ask.text for ask in plan().asks)
        self.assertNotIn("Secret", told)
        self.assertNotIn("dome.example", told)

    def test_a_teaser_that_is_the_beginning_of_the_text_is_cut_from_the_edition(self) -> None:
        asked = plan()
        made = asked.made(loud(asked.asks))
        self.assertEqual(made.texts.excerpt, "THE DOME OPENS AT 20:00 ON THE…")
        edited = "The dome opens at 20:00 on the ridge, whatever the weather. Bring a cup."
        self.assertEqual(self.cut_of(edited), {"excerpt"})
        for other in ("The dome opens at 20:00 and closes at two.", "The dome"):
            self.assertEqual(self.cut_of(other), set())

    def cut_of(self, excerpt: str) -> frozenset[str]:
        return plan(EditionTexts(title="T", body=BODY.replace("weather", "weather. So"), excerpt=excerpt)).cut_parts

    def test_the_texts_of_an_edition(self) -> None:
        asked = plan()
        made = asked.made(loud(asked.asks))
        self.assertEqual(made.texts.title, "THE DOME OPENS")
        self.assertIn('<a href="https://dome.example/">DOME</a>', made.texts.body)
        self.assertIn('src="https://dome.example/1.png" alt="A DOME"', made.texts.body)
        self.assertEqual((made.texts.labels, made.texts.values), (("PLACE", "SEATS"), ("ON THE RIDGE", "")))
        self.assertEqual((made.waits, made.faults), ([], []))

    def test_what_has_no_answer_or_a_fault_stays_in_the_first_language(self) -> None:
        asked = plan()
        title, *rest = asked.asks
        answers = loud(rest) | {rest[-3].key: Answer(fault="numbers", by="machine")}
        made = asked.made(answers)
        self.assertEqual([ask.text for ask in made.waits], [title.text])
        self.assertEqual(made.faults, [("numbers", rest[-3].text)])
        self.assertEqual(made.texts.title, "The dome opens")
        self.assertIn("opens at 20:00", made.texts.body)
        self.assertIn("BRING A LAMP", made.texts.body)

    def test_marks_that_do_not_fit_are_a_fault(self) -> None:
        asked = plan()
        answers = loud(asked.asks)
        link = next(ask for ask in asked.asks if "⟦" in ask.text)
        answers[link.key] = Answer(text="The dome", by="machine")
        made = asked.made(answers)
        self.assertEqual(made.faults, [("marks", link.text)])

    def test_terms_are_asked_for_where_they_stand(self) -> None:
        fixed = FixedWord(("dome",), ("Kuppel",))
        asks = plan(glossary=[fixed]).asks
        self.assertEqual([bool(ask.fixed) for ask in asks], [True, False, False, False, False, True, False, True])

    def test_blocks_as_they_are_now(self) -> None:
        asked = plan()
        made = asked.made(loud(asked.asks))
        now = block_texts(made.texts, leave_out=asked.cut_parts)
        self.assertEqual([part for part, _ in now], asked.part_names)
        self.assertEqual(now[0], ("title", "THE DOME OPENS"))


class Documents(TestCase):
    def test_the_language_in_which_readers_find_a_text(self) -> None:
        document = LanguageDocument.model_validate({"languages": [{"tag": "de"}, {"tag": "pt-BR"}]})
        found = {tag: language.tag for tag in ("de", "de-AT", "pt-BR", "DE") if (language := document.of_text(tag))}
        self.assertEqual(found, {"de": "de", "de-AT": "de", "pt-BR": "pt-BR", "DE": "de"})
        for tag in ("pt", "en", ""):
            self.assertIsNone(document.of_text(tag), tag)

    def test_what_cannot_be_read_is_no_language(self) -> None:
        self.assertEqual(languages_of({"languages": [{"tag": "not a tag"}]}).languages, ())
        self.assertEqual(languages_of({}).languages, ())

    def test_a_campaign_makes_each_language_once(self) -> None:
        twice = {"release": {"editions": [{"to": "de"}, {"to": "de", "mode": "publish"}]}}
        with self.assertRaisesRegex(DocumentError, "“de” is there twice"):
            load_document(twice)

    def test_which_editions_a_post_gets(self) -> None:
        release = load_document({"release": {"editions": [{"to": "de"}, {"to": "ja"}]}}).release
        self.assertEqual([rule.to for rule in release.editions_of("de-AT", Right.FULL)], ["ja"])
        self.assertEqual([rule.to for rule in release.editions_of("en", Right.EXCERPT)], ["de", "ja"])
        self.assertEqual(release.editions_of("en", Right.LINK), ())

    def test_own_words_keep_the_places_of_values(self) -> None:
        for words, fits in (
            ({"Page {number}.": "{number}. Seite"}, True),
            ({"Page {number}.": "Seite"}, False),
            ({"Read on at %(source)s": "Weiter bei %(source)s"}, True),
            ({"Read on at %(source)s": "Weiter bei %(other)s"}, False),
            ({"Search": "100 %"}, False),
        ):
            document = languages_of({"words": words})
            self.assertEqual(bool(document.words), fits, words)
