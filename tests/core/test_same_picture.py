"""One picture in several sizes is one picture: no post shows it twice."""

from django.test import SimpleTestCase
from glyptarch_core.item import Media, MediaKind, MediaOrigin
from glyptarch_core.testing import captured
from glyptarch_core.text import picture_key, shows_picture
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_stages import one

LEAD = "https://club.example/up/dome.jpg"
SAME = (
    "http://club.example/up/dome.jpg",
    "https://www.club.example/up/dome-300x200.jpg",
    "https://club.example/up/dome_1024x683.jpg",
    "https://club.example/up/dome@2x.jpg",
    "https://club.example/up/dome-scaled.jpg",
    "https://club.example/up/dome-scaled-640x480.jpg",
    "https://club.example/up/dome.jpg?w=640&h=480&quality=80",
)
OTHERS = (
    "https://club.example/up/dome-2.jpg",
    "https://club.example/up/dome.png",
    "https://other.example/up/dome.jpg",
    "https://club.example/up/dome.jpg?id=7",
    "https://club.example/up/300x200.jpg",
    "",
    "http://[",
)


class SamePicture(SimpleTestCase):
    def test_sizes_of_one_picture_have_one_key(self) -> None:
        for url in SAME:
            self.assertEqual(picture_key(url), picture_key(LEAD), url)

    def test_other_pictures_have_other_keys(self) -> None:
        for url in OTHERS:
            self.assertNotEqual(picture_key(url), picture_key(LEAD), url)

    @given(st.text(max_size=60))
    def test_any_text_has_a_key(self, url: str) -> None:
        self.assertEqual(picture_key(url), picture_key(url))

    def test_a_body_shows_it_in_any_size(self) -> None:
        self.assertTrue(shows_picture(f'<p>x</p><img src="{SAME[1]}">', LEAD))
        self.assertFalse(shows_picture(f'<p>x</p><img src="{OTHERS[0]}"><img>', LEAD))
        self.assertFalse(shows_picture(f"<p>{LEAD}</p>", LEAD))

    def test_the_lead_is_taken_out_of_the_body_in_any_size_and_no_other_picture_is(self) -> None:
        item = captured(
            body=f'<figure><img src="{SAME[1]}"></figure><p>Story.</p><img src="{OTHERS[0]}">',
            media=(Media(url=LEAD, kind=MediaKind.PICTURE, origin=MediaOrigin.FEED),),
        )
        draft = one(item).draft
        assert draft is not None and draft.lead is not None
        self.assertEqual((draft.lead.url, draft.body), (LEAD, f'<p>Story.</p><img src="{OTHERS[0]}">'))
