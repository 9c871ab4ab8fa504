"""The look of a blog as a document.

Colours that can be read, parts that fit, CSS that loads nothing from elsewhere.
"""

from django.test import SimpleTestCase
from glyptarch_core.appearance import Look, boxes_of, colours_of, contrast, look_of, mark_of, own_css, parts_of
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

COLOURS = st.integers(0, 0xFFFFFF).map(lambda number: f"#{number:06x}")


class Colours(SimpleTestCase):
    def test_contrast_is_that_of_the_standard(self) -> None:
        self.assertAlmostEqual(contrast("#000000", "#ffffff"), 21.0)
        self.assertAlmostEqual(contrast("#777777", "#ffffff"), 4.48, places=2)

    def test_a_pale_accent_is_refused_with_one_that_can_be_read(self) -> None:
        with self.assertRaisesRegex(ValidationError, r"cannot be read on the paper.*#[0-9a-f]{6} can") as refused:
            Look(accent="#ffcc00")
        better = str(refused.exception).rpartition(" can.")[0][-7:]
        self.assertEqual(Look(accent=better).accent, better)
        with self.assertRaisesRegex(ValidationError, "is no colour"):
            Look(accent="red")

    def test_what_is_stored_and_no_longer_allowed_gives_way_to_the_usual(self) -> None:
        look = look_of({"front": "newer", "accent": "#ffcc00", "corners": "sharp", "gone": 1})
        self.assertEqual((look.front, look.accent, look.corners), ("magazine", "#8a4b12", "sharp"))

    @given(COLOURS, COLOURS)
    def test_every_look_can_be_read_by_day_and_by_night(self, accent: str, ground: str) -> None:
        try:
            look = Look(accent=accent, ground=ground)
        except ValidationError:
            return
        colours = colours_of(look)
        day, night = colours["--lamp"].removeprefix("light-dark(").removesuffix(")").split(", ")
        self.assertGreaterEqual(contrast(day, "#fbfaf6"), 4.5)
        self.assertGreaterEqual(contrast(night, "#0d1420"), 4.5)
        self.assertGreaterEqual(contrast(colours["--on-ground"], ground), 4.5)

    def test_boxes_of_pictures_are_properties_and_usual_ones_none(self) -> None:
        self.assertEqual(boxes_of(Look()), {})
        look = look_of({"list_pictures": {"ratio": "3:2", "fit": "fit"}, "post_picture": {"ratio": "own"}})
        self.assertEqual(boxes_of(look), {"--list-ratio": "3 / 2", "--list-fit": "contain", "--post-ratio": "auto"})
        with self.assertRaises(ValidationError):
            Look.model_validate({"list_pictures": {"ratio": "1; color: red"}})

    def test_the_mark_of_a_source_is_its_own_and_stays(self) -> None:
        self.assertEqual(mark_of("Orrin Observatory", "orrin"), mark_of("Orrin Observatory", "orrin"))
        self.assertEqual([mark_of(name, "x")[0] for name in ("Orrin Observatory", "skywire", "観測 会", "…")], ["OO", "S", "観会", "•"])  # fmt: skip
        self.assertGreater(len({mark_of("a", f"s{number}")[1] for number in range(40)}), 5)


class Parts(SimpleTestCase):
    def test_each_front_is_ready_and_leads_to_older_posts(self) -> None:
        for front in ("magazine", "journal", "guide", "screening", "class"):
            with self.subTest(front):
                parts = parts_of(Look(front=front))
                self.assertEqual(sum(part.kind == "newest" for part in parts), 1)
                self.assertEqual(Look(front=front, parts=parts).parts, parts)

    def test_parts_of_a_blogs_own_take_the_place_of_the_ready_ones(self) -> None:
        look = Look.model_validate({"parts": [{"id": "a", "kind": "newest"}]})
        self.assertEqual([part.id for part in parts_of(look)], ["a"])

    def test_a_front_without_the_newest_or_with_two_of_one_id_is_refused(self) -> None:
        newest = {"id": "a", "kind": "newest"}
        for parts, says in (
            ([{"id": "a", "kind": "find"}], "Newest"),
            ([newest, {"id": "b", "kind": "newest"}], "Newest"),
            ([newest, {"id": "a", "kind": "find"}], "two parts have the id"),
            ([newest, {"id": "b", "kind": "briefs", "count": 25}], "24"),
            ([newest, {"id": "b", "kind": "unheard-of"}], "unheard-of"),
        ):
            with self.subTest(says), self.assertRaisesRegex(ValidationError, f"(?i){says}"):
                Look.model_validate({"parts": parts})

    def test_stored_parts_that_no_longer_fit_give_way_to_the_ready_ones(self) -> None:
        for parts in ([{"id": "a", "kind": "gone"}], [{"id": "a", "kind": "find"}]):
            look = look_of({"parts": parts, "corners": "sharp"})
            self.assertEqual((look.parts, look.corners), ((), "sharp"))


class Ways(SimpleTestCase):
    def test_places_on_the_blog_and_whole_addresses(self) -> None:
        for to in ("", "section/news/", "about/", "search/?q=comet+mill", "https://club.example/join"):
            with self.subTest(to):
                self.assertEqual(Look.model_validate({"menu": [{"label": "Go", "to": to}]}).menu[0].to, to)

    def test_what_is_no_address_is_refused(self) -> None:
        for to in (
            "javascript:alert(1)",
            "//evil.example/",
            "/api/",
            "about",
            "https://",
            "../desk/",
            "data:text/html,x",
        ):
            with self.subTest(to), self.assertRaisesRegex(ValidationError, "is no address"):
                Look.model_validate({"menu": [{"label": "Go", "to": to}]})

    def test_a_logo_is_a_picture_here_or_on_the_web(self) -> None:
        for logo in ("/media/a.png", "https://club.example/logo.svg"):
            self.assertEqual(Look(logo=logo).logo, logo)
        for logo in ("javascript:alert(1)", "//evil.example/a.png", "a.png"):
            with self.subTest(logo), self.assertRaises(ValidationError):
                Look(logo=logo)


class OwnCss(SimpleTestCase):
    def test_rules_stay_and_nothing_is_loaded_from_elsewhere(self) -> None:
        css = own_css(
            Look(
                css="@import 'https://evil.example/a.css'; .story { color: red; background: url(https://evil.example/a) } "
                "@media print { nav { display: none } } .a { background: url('/media/a.png') } </style><script>"
            )
        )
        self.assertIn("color: red", css)
        self.assertIn("display: none", css)
        self.assertIn('url("/media/a.png")', css)
        for hostile in ("evil", "@import", "</style"):
            self.assertNotIn(hostile, css)
