"""Untrusted pictures: any bytes give a plain picture or an error code."""

import io
import struct
import unittest
import zlib

from glyptarch_core.pictures import (
    Focus,
    MadePicture,
    ShownPicture,
    focus_of,
    make_picture,
    media_of,
    recording_kind,
    show_copies,
)
from PIL import Image, ImageDraw, PngImagePlugin


def picture(width: int = 900, height: int = 600, mode: str = "RGB") -> Image.Image:
    image = Image.new(mode, (width, height))
    ImageDraw.Draw(image).rectangle((width // 4, height // 4, width // 2, height // 2), fill="white")
    return image


def written(made: Image.Image, kind: str, **options: object) -> bytes:
    file = io.BytesIO()
    made.save(file, kind, **options)
    return file.getvalue()


def opened(data: bytes) -> Image.Image:
    return Image.open(io.BytesIO(data))


class Kinds(unittest.TestCase):
    def made(self, data: bytes) -> MadePicture:
        found = make_picture(data)
        assert isinstance(found, MadePicture), found
        return found

    def test_sizes_are_smaller_than_the_picture_and_keep_its_ratio(self) -> None:
        made = self.made(written(picture(), "JPEG"))
        self.assertEqual([size.width for size in made.sizes], [320, 640, 900])
        for size in made.sizes:
            shown = opened(size.data)
            self.assertEqual((shown.format, shown.width), ("WEBP", size.width))
            self.assertAlmostEqual(shown.width / shown.height, 1.5, delta=0.01)

    def test_a_large_picture_has_no_larger_file_than_1920_and_a_fallback_of_1280(self) -> None:
        made = self.made(written(picture(4000, 1000), "PNG"))
        self.assertEqual(max(size.width for size in made.sizes), 1920)
        self.assertEqual((made.fallback.width, made.fallback.ending), (1280, "jpg"))

    def test_every_usual_format_is_read_by_what_it_is(self) -> None:
        for kind in ("JPEG", "PNG", "GIF", "WEBP", "BMP", "TIFF", "AVIF"):
            with self.subTest(kind=kind):
                self.assertEqual(self.made(written(picture(), kind)).width, 900)

    def test_a_picture_higher_than_webp_allows_is_made_smaller(self) -> None:
        image = make_picture(written(Image.new("RGB", (40, 17_000)), "PNG"))
        assert isinstance(image, MadePicture)
        self.assertEqual((image.width, image.height), (28, 11_900))

    def test_nothing_of_the_original_file_is_kept(self) -> None:
        exif = Image.Exif()
        exif[0x010E] = "Secret place in the vale"
        note = PngImagePlugin.PngInfo()
        note.add_text("Comment", "Secret place in the vale")
        for data in (
            written(picture(), "JPEG", exif=exif, comment=b"Secret place in the vale"),
            written(picture(), "PNG", pnginfo=note) + b"<script>Secret place</script>",
        ):
            made = self.made(data)
            for size in (*made.sizes, made.fallback):
                self.assertFalse(b"Secret" in size.data, size.ending)
                self.assertFalse(opened(size.data).getexif())

    def test_a_picture_lying_on_its_side_is_turned(self) -> None:
        exif = Image.Exif()
        exif[0x0112] = 6
        made = self.made(written(picture(600, 400), "JPEG", exif=exif))
        self.assertEqual((made.width, made.height), (400, 600))

    def test_other_colours_become_plain_ones(self) -> None:
        deep = Image.new("I;16", (400, 300))
        deep.putpixel((10, 10), 40_000)
        for data in (
            written(picture(mode="CMYK"), "JPEG"),
            written(deep, "PNG"),
            written(picture(mode="L"), "PNG"),
            written(picture(mode="1"), "PNG"),
            written(picture().convert("P"), "GIF"),
        ):
            shown = opened(self.made(data).fallback.data)
            self.assertEqual((shown.mode, shown.format), ("RGB", "JPEG"))

    def test_sixteen_bits_keep_their_light_and_dark(self) -> None:
        deep = Image.new("I;16", (400, 300), 1000)
        deep.paste(60_000, (0, 0, 200, 300))
        shown = opened(self.made(written(deep, "PNG")).fallback.data)
        left, right = shown.getpixel((50, 150)), shown.getpixel((350, 150))
        self.assertGreater(left[0], 240)  # type: ignore[index]
        self.assertLess(right[0], 15)  # type: ignore[index]

    def test_what_shines_through_stays(self) -> None:
        see_through = picture(mode="RGBA")
        see_through.putpixel((0, 0), (0, 0, 0, 0))
        self.assertEqual(self.made(written(see_through, "PNG")).fallback.ending, "png")
        opaque = picture()
        opaque.putalpha(255)
        self.assertEqual(self.made(written(opaque, "PNG")).fallback.ending, "jpg")

    def test_an_animation_gives_its_first_picture(self) -> None:
        frames = [picture(300, 200), Image.new("RGB", (300, 200), "red")]
        made = self.made(written(frames[0], "GIF", save_all=True, append_images=frames[1:]))
        self.assertEqual(getattr(opened(made.sizes[0].data), "n_frames", 1), 1)

    def test_a_broken_profile_of_colours_costs_the_colours_only(self) -> None:
        self.assertEqual(self.made(written(picture(), "JPEG", icc_profile=b"no profile")).width, 900)


class Faults(unittest.TestCase):
    def test_what_is_no_picture_has_a_code(self) -> None:
        whole = written(picture(), "JPEG")
        cases = {
            "empty": b"",
            "svg": b"<?xml version='1.0'?><svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>",
            "no_picture": b"<html>Sign in</html>",
            "broken": whole[: len(whole) // 2],
            "too_large": b"\xff\xd8" + bytes(20 << 20),
        }
        for code, data in cases.items():
            with self.subTest(code=code):
                self.assertEqual(make_picture(data), code)

    def test_a_bomb_is_not_opened(self) -> None:
        def chunk(kind: bytes, data: bytes) -> bytes:
            return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

        header = chunk(b"IHDR", struct.pack(">IIBBBBB", 60_000, 60_000, 8, 2, 0, 0, 0))
        bomb = b"\x89PNG\r\n\x1a\n" + header + chunk(b"IDAT", zlib.compress(bytes(1000))) + chunk(b"IEND", b"")
        self.assertEqual(make_picture(bomb), "too_many_pixels")

    def test_spoiled_bytes_raise_nothing(self) -> None:
        for kind in ("JPEG", "PNG", "GIF", "WEBP", "TIFF"):
            whole = bytearray(written(picture(120, 80), kind))
            for place in range(0, len(whole), max(1, len(whole) // 60)):
                spoiled = bytearray(whole)
                spoiled[place] ^= 0xFF
                self.assertIsInstance(make_picture(bytes(spoiled)), MadePicture | str)


class WhereToLook(unittest.TestCase):
    def test_the_focus_is_where_the_detail_is(self) -> None:
        image = Image.new("L", (600, 400), 40)
        draw = ImageDraw.Draw(image)
        for step in range(0, 90, 6):
            draw.line((480 + step, 20, 480, 110), fill=255)
        found = focus_of(image)
        self.assertGreater(found.x, 0.65)
        self.assertLess(found.y, 0.4)

    def test_an_even_picture_is_looked_at_in_the_middle(self) -> None:
        self.assertEqual(focus_of(Image.new("RGB", (300, 200), "navy")), Focus())


KEPT = ShownPicture(url="/media/k.jpg", webp=(("/media/k-320.webp", 320),), width=640, height=480, alt="A dome")


class Showing(unittest.TestCase):
    BODY = '<p>Before <img src="https://a.example/1.jpg" srcset="x 2x"> after</p><p><img src="https://a.example/2.jpg"></p>'

    def test_the_media_of_a_body_are_named_once(self) -> None:
        body = self.BODY + '<video src="https://a.example/f.mp4" poster="https://a.example/1.jpg"></video>'
        self.assertEqual(
            media_of(body), (["https://a.example/1.jpg", "https://a.example/2.jpg"], ["https://a.example/f.mp4"])
        )
        self.assertEqual(media_of("<p>None</p>"), ([], []))

    def test_a_copy_takes_the_place_of_its_picture(self) -> None:
        shown = show_copies(self.BODY, {"https://a.example/1.jpg": KEPT}, pictures=True)
        self.assertIn('<source type="image/webp" srcset="/media/k-320.webp 320w"', shown)
        self.assertIn('width="640" height="480" loading="lazy" alt="A dome"></picture> after', shown)
        self.assertNotIn("a.example", shown)

    def test_a_picture_that_is_not_kept_is_shown_only_where_originals_may_be(self) -> None:
        self.assertNotIn("img", show_copies(self.BODY, {}, pictures=True))
        self.assertIn("https://a.example/2.jpg", show_copies(self.BODY, {}, pictures=False))

    def test_an_empty_frame_goes_with_its_picture(self) -> None:
        framed = '<figure><a href="https://a.example"><img src="https://a.example/1.jpg"></a></figure><p>Text</p>'
        self.assertEqual(show_copies(framed, {}, pictures=True), "<p>Text</p>")
        captioned = '<figure><img src="https://a.example/1.jpg"><figcaption>The dome</figcaption></figure>'
        self.assertIn("The dome", show_copies(captioned, {}, pictures=True))

    def test_films_and_sound_play_from_their_copies(self) -> None:
        body = '<audio><source src="https://a.example/s.mp3"></audio><video src="https://a.example/f.mp4"></video>'
        shown = show_copies(body, {"https://a.example/s.mp3": "/media/s.mp3"}, pictures=False)
        self.assertIn('src="/media/s.mp3"', shown)
        self.assertIn('src="https://a.example/f.mp4"', shown)


class Recordings(unittest.TestCase):
    def test_a_recording_is_known_by_its_first_bytes(self) -> None:
        cases = {
            b"\x00\x00\x00\x20ftypisom": "mp4",
            b"\x00\x00\x00\x20ftypM4A ": "m4a",
            b"\x1a\x45\xdf\xa3\x01\x00\x00\x00webm": "webm",
            b"OggS\x00\x02": "ogg",
            b"RIFF\x00\x00\x00\x00WAVEfmt ": "wav",
            b"fLaC\x00": "flac",
            b"ID3\x04": "mp3",
            b"\xff\xfb\x90": "mp3",
            b"<html>": None,
            b"": None,
        }
        for beginning, ending in cases.items():
            self.assertEqual(recording_kind(beginning), ending)
