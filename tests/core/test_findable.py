"""What a post lacks to be found and shared."""

from dataclasses import replace

from django.test import SimpleTestCase
from glyptarch_core.findable import Findable, Lack, Lacking, lacks

WHOLE = Findable(
    title="A second tail of the comet",
    description="The comet has grown a second tail over Upper Wick, seen from the ridge on Tuesday night.",
    body=f"<p>{'word ' * 60}</p><img src='a.jpg' alt='The tail'>",
    picture="https://a.example/a.jpg",
    width=1200,
    alt="The tail",
)


class Lacks(SimpleTestCase):
    def of(self, **changed: object) -> list[Lacking]:
        return lacks(replace(WHOLE, **changed))  # type: ignore[arg-type]  # any of its fields

    def test_a_whole_post_lacks_nothing(self) -> None:
        self.assertEqual(lacks(WHOLE), [])

    def test_each_thing_is_named_with_its_numbers(self) -> None:
        for changed, wanted in (
            ({"title": "x" * 60}, []),
            ({"title": "x" * 61}, [Lacking(Lack.TITLE_LONG, {"characters": 61, "most": 60})]),
            ({"description": " "}, [Lacking(Lack.NO_DESCRIPTION)]),
            ({"description": "x" * 49}, [Lacking(Lack.DESCRIPTION_SHORT, {"characters": 49, "least": 50})]),
            ({"description": "x" * 50}, []),
            ({"description": "x" * 160}, []),
            ({"description": "x" * 161}, [Lacking(Lack.DESCRIPTION_LONG, {"characters": 161, "most": 160})]),
            ({"description": "A SECOND tail  of the comet"}, [Lacking(Lack.DESCRIPTION_IS_TITLE)]),
            ({"picture": ""}, [Lacking(Lack.NO_PICTURE)]),
            ({"width": 0}, []),
            ({"width": 599}, [Lacking(Lack.PICTURE_SMALL, {"width": 599, "least": 600})]),
            ({"alt": " "}, [Lacking(Lack.NO_ALT)]),
            ({"public": False, "original": "https://a.example/"}, [Lacking(Lack.NOT_PUBLIC)]),
            ({"original": "https://a.example/"}, [Lacking(Lack.ORIGINAL_ELSEWHERE)]),
            ({"body": f"<p>{'word ' * 49}</p>"}, [Lacking(Lack.TEXT_SHORT, {"words": 49, "least": 50})]),
            (
                {"body": f"<p>{'word ' * 60}<img src=a><img src=b alt=' '><img src=c alt=c></p>"},
                [Lacking(Lack.PICTURES_WITHOUT_ALT, {"pictures": 2})],
            ),
        ):
            with self.subTest(changed):
                self.assertEqual(self.of(**changed), wanted)

    def test_what_matters_most_stands_first(self) -> None:
        self.assertEqual(
            [one.lack for one in lacks(Findable(title="x" * 80, description="", body="", public=False))],
            [Lack.NOT_PUBLIC, Lack.TITLE_LONG, Lack.NO_DESCRIPTION, Lack.NO_PICTURE, Lack.TEXT_SHORT],
        )
