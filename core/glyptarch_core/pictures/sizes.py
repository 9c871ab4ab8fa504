"""Safe copies of an untrusted picture in several sizes.

The type of a picture is read from its bytes, never from its name or the stated type. The pixels are written anew, so
EXIF, comments and trailing data are dropped. SVG can contain scripts and is refused.
"""

import hashlib
import io
import warnings
from dataclasses import dataclass

from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError

from glyptarch_core.pictures.focus import Focus, focus_of

__all__ = ["MOST_BYTES", "MOST_PIXELS", "MadePicture", "MadeSize", "PictureFault", "make_picture"]

MOST_BYTES = 20 << 20
MOST_PIXELS = 40_000_000
"""Pictures with more pixels are not opened: decoded they would take more than 160 MB."""

_FORMATS = ("JPEG", "PNG", "GIF", "WEBP", "AVIF", "BMP", "TIFF")
_WIDTHS = (320, 640, 960, 1280, 1920)
_FALLBACK_WIDTH = 1280
# The longest side of WebP is 16,383 pixels (RFC 9649, 2.5), and no page needs a higher picture than this.
_HIGHEST = 12_000
_WEBP_QUALITY = 80
_JPEG_QUALITY = 84
_WITH_ALPHA = {"RGBA", "LA", "PA"}
_BEGINNING = 1024


class PictureFault(Exception):
    """These bytes are no picture that is shown. ``code`` says why."""

    def __init__(self, code: str) -> None:
        super().__init__(code)
        self.code = code


@dataclass(frozen=True, slots=True, kw_only=True)
class MadeSize:
    """One file: width in pixels, extension (``webp``, ``jpg`` or ``png``) and bytes."""

    width: int
    ending: str
    data: bytes


@dataclass(frozen=True, slots=True, kw_only=True)
class MadePicture:
    """A safe picture. ``hash`` is the SHA-256 of the original.

    ``fallback`` is for browsers without WebP.
    """

    hash: str
    width: int
    height: int
    focus: Focus
    sizes: tuple[MadeSize, ...]
    fallback: MadeSize


def make_picture(data: bytes) -> MadePicture | str:
    """Return the sizes of a picture, or the code of the reason why it cannot be shown.

    Codes: ``empty``, ``too_large`` (bytes), ``too_many_pixels``, ``svg``, ``no_picture``, ``broken``.
    """
    try:
        return _make(data)
    except PictureFault as fault:
        return fault.code
    except (ValueError, OSError):
        # The decoder accepts it and the encoder does not.
        return "broken"


def _make(data: bytes) -> MadePicture:
    picture = _opened(data)
    picture = ImageOps.exif_transpose(picture)
    picture = _in_plain_colours(picture)
    if picture.height > _HIGHEST:
        picture = _scaled(picture, max(1, picture.width * _HIGHEST // picture.height))
    widths = [width for width in _WIDTHS if width < picture.width] + [min(picture.width, _WIDTHS[-1])]
    scaled = {width: _scaled(picture, width) for width in widths}
    fallback = next((scaled[width] for width in reversed(widths) if width <= _FALLBACK_WIDTH), scaled[widths[0]])
    return MadePicture(
        hash=hashlib.sha256(data).hexdigest(),
        width=picture.width,
        height=picture.height,
        focus=focus_of(picture),
        sizes=tuple(_webp(size) for size in scaled.values()),
        fallback=_png(fallback) if fallback.mode == "RGBA" else _jpeg(fallback),
    )


def _opened(data: bytes) -> Image.Image:
    if not data:
        raise PictureFault("empty")
    if len(data) > MOST_BYTES:
        raise PictureFault("too_large")
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        try:
            picture = Image.open(io.BytesIO(data), formats=_FORMATS)
            _check_pixels(picture)
            picture.load()
        except PictureFault:
            raise
        except Image.DecompressionBombError as error:
            raise PictureFault("too_many_pixels") from error
        except UnidentifiedImageError as error:
            raise PictureFault("svg" if b"<svg" in data[:_BEGINNING].lower() else "no_picture") from error
        except MemoryError:
            raise
        except Exception as error:
            # Decoders raise many classes for broken data (OSError, SyntaxError, struct.error, KeyError …).
            raise PictureFault("broken") from error
    return picture


def _check_pixels(picture: Image.Image) -> None:
    if picture.width * picture.height > MOST_PIXELS:
        raise PictureFault("too_many_pixels")


def _in_plain_colours(picture: Image.Image) -> Image.Image:
    """Return a picture as 8-bit sRGB, with an alpha channel only where it has transparency."""
    if picture.mode.startswith("I") or picture.mode == "F":
        # 16 and 32 bits of grey are scaled to 8 by the range in use.
        low, high = picture.getextrema()
        span = max(float(high) - float(low), 1.0)  # type: ignore[arg-type]
        wide = picture.convert("F")
        picture = wide.point(lambda value: (value - float(low)) * 255.0 / span).convert("L")  # type: ignore[arg-type]
    see_through = picture.mode in _WITH_ALPHA or "transparency" in picture.info
    profile = picture.info.get("icc_profile")
    if profile and picture.mode in {"RGB", "CMYK", "L"}:
        try:
            there = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            here = ImageCms.createProfile("sRGB")
            picture = ImageCms.profileToProfile(picture, there, here, outputMode="RGB") or picture
        except (ImageCms.PyCMSError, OSError, ValueError, TypeError):
            # A broken profile loses the exact colours, not the picture.
            picture = picture.convert("RGB")
    picture = picture.convert("RGBA" if see_through else "RGB")
    if picture.mode == "RGBA" and picture.getchannel("A").getextrema()[0] == 255:  # noqa: PLR2004 - opaque
        picture = picture.convert("RGB")
    # Otherwise comments and profiles would be copied into the new files.
    picture.info.clear()
    return picture


def _scaled(picture: Image.Image, width: int) -> Image.Image:
    height = max(1, round(picture.height * width / picture.width))
    return picture if width == picture.width else picture.resize((width, height), Image.Resampling.LANCZOS)


def _webp(picture: Image.Image) -> MadeSize:
    written = io.BytesIO()
    picture.save(written, "WEBP", quality=_WEBP_QUALITY, method=2)
    return MadeSize(width=picture.width, ending="webp", data=written.getvalue())


def _jpeg(picture: Image.Image) -> MadeSize:
    written = io.BytesIO()
    picture.save(written, "JPEG", quality=_JPEG_QUALITY, optimize=True, progressive=True)
    return MadeSize(width=picture.width, ending="jpg", data=written.getvalue())


def _png(picture: Image.Image) -> MadeSize:
    written = io.BytesIO()
    picture.save(written, "PNG", optimize=True)
    return MadeSize(width=picture.width, ending="png", data=written.getvalue())
