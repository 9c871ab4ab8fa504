"""Pictures drawn by code: skies, ridges, comets, domes and the outlines of instruments."""

import io
import math
import random
from functools import lru_cache

from PIL import Image, ImageChops, ImageDraw, ImageFilter

__all__ = ["draw"]

_SIZE = (1200, 675)
_NIGHTS = (
    ((7, 12, 30), (36, 64, 107)),
    ((9, 16, 24), (24, 92, 92)),
    ((18, 10, 34), (96, 52, 92)),
    ((8, 14, 26), (66, 78, 104)),
    ((12, 20, 22), (120, 96, 70)),
)

Colour = tuple[int, int, int]


def _mix(first: Colour, second: Colour, share: float) -> Colour:
    return tuple(round(a + (b - a) * share) for a, b in zip(first, second, strict=True))  # type: ignore[return-value]


def _sky(rng: random.Random) -> Image.Image:
    top, bottom = rng.choice(_NIGHTS)
    column = Image.new("RGB", (1, _SIZE[1]))
    for y in range(_SIZE[1]):
        column.putpixel((0, y), _mix(top, bottom, (y / _SIZE[1]) ** 1.6))
    image = column.resize(_SIZE)
    _glow(image, rng)
    draw_on = ImageDraw.Draw(image)
    for _ in range(rng.randint(240, 520)):
        x, y = rng.uniform(0, _SIZE[0]), rng.uniform(0, _SIZE[1]) ** 1.02
        light = rng.random() ** 3
        radius = 0.6 + 1.7 * light
        shade = round(120 + 135 * light)
        draw_on.ellipse((x - radius, y - radius, x + radius, y + radius), fill=(shade, shade, min(255, shade + 12)))
    return image


def _glow(image: Image.Image, rng: random.Random) -> None:
    cloud = Image.new("RGB", (_SIZE[0] // 4, _SIZE[1] // 4))
    draw_on = ImageDraw.Draw(cloud)
    slope = rng.uniform(-0.5, 0.5)
    for _ in range(70):
        along = rng.gauss(0.5, 0.28)
        x, y = along * cloud.width, (0.45 + (along - 0.5) * slope + rng.gauss(0, 0.08)) * cloud.height
        radius = rng.uniform(4, 26)
        colour = rng.choice([(26, 24, 40), (20, 32, 44), (34, 22, 34)])
        draw_on.ellipse((x - radius, y - radius, x + radius, y + radius), fill=colour)
    soft = cloud.filter(ImageFilter.GaussianBlur(14)).resize(_SIZE)
    image.paste(ImageChops.add(image, soft))


def _ridge(image: Image.Image, rng: random.Random, level: float, colour: Colour) -> None:
    phase, points = rng.uniform(0, 9), []
    for x in range(0, _SIZE[0] + 12, 12):
        wave = math.sin(x / 190 + phase) * 26 + math.sin(x / 71 + phase * 2) * 9 + rng.uniform(-3, 3)
        points.append((x, _SIZE[1] * level + wave))
    ImageDraw.Draw(image).polygon([(0, _SIZE[1]), *points, (_SIZE[0], _SIZE[1])], fill=colour)


def _meteor(image: Image.Image, rng: random.Random) -> None:
    streak = Image.new("RGB", _SIZE)
    draw_on = ImageDraw.Draw(streak)
    x, y = rng.uniform(300, 900), rng.uniform(60, 200)
    angle, length = rng.uniform(0.9, 2.3), rng.uniform(240, 430)
    for step in range(60):
        share = step / 59
        px, py = x + math.cos(angle) * length * share, y + math.sin(angle) * length * share
        radius = 0.6 + 4.2 * share**2
        shade = round(40 + 215 * share)
        draw_on.ellipse((px - radius, py - radius, px + radius, py + radius), fill=(shade, shade, min(255, shade + 8)))
    glow = streak.filter(ImageFilter.GaussianBlur(7))
    image.paste(ImageChops.add(ImageChops.add(image, glow), streak))


def _comet(image: Image.Image, rng: random.Random) -> None:
    tail = Image.new("RGB", _SIZE)
    draw_on = ImageDraw.Draw(tail)
    x, y, angle = rng.uniform(380, 820), rng.uniform(220, 420), rng.uniform(3.6, 5.6)
    for step in range(150, 0, -1):
        share = step / 150
        px, py = x + math.cos(angle) * 420 * share, y + math.sin(angle) * 420 * share
        radius = 6 + 60 * share
        shade = round(52 * (1 - share) ** 1.5)
        spot = Image.new("RGB", (int(radius * 2),) * 2)
        ImageDraw.Draw(spot).ellipse((0, 0, radius * 2, radius * 2), fill=(shade, shade + 6, shade + 9))
        box = (int(px - radius), int(py - radius))
        area = tail.crop((*box, box[0] + spot.width, box[1] + spot.height))
        tail.paste(ImageChops.lighter(area, spot), box)
    draw_on.ellipse((x - 9, y - 9, x + 9, y + 9), fill=(220, 245, 232))
    image.paste(ImageChops.add(image, tail.filter(ImageFilter.GaussianBlur(6))))


def _dome(image: Image.Image, rng: random.Random) -> None:
    _ridge(image, rng, 0.86, (9, 14, 18))
    x, y, radius = rng.uniform(420, 780), 500, rng.uniform(120, 170)
    draw_on = ImageDraw.Draw(image)
    shell, slit = (34, 42, 50), (214, 178, 112)
    draw_on.rectangle((x - radius, y, x + radius, y + 110), fill=(26, 33, 40))
    draw_on.pieslice((x - radius, y - radius, x + radius, y + radius), 180, 360, fill=shell)
    draw_on.polygon([(x - 14, y), (x + 14, y), (x + 34, y - radius * 0.93), (x + 8, y - radius)], fill=slit)
    draw_on.rectangle((x - radius - 6, y - 5, x + radius + 6, y + 7), fill=(46, 56, 64))


def _silhouette(rng: random.Random) -> Image.Image:
    ground, wall = rng.choice([((198, 178, 146), (232, 222, 204)), ((150, 168, 164), (214, 224, 220))])
    image = Image.new("RGB", _SIZE, wall)
    draw_on = ImageDraw.Draw(image)
    draw_on.rectangle((0, 470, *_SIZE), fill=ground)
    x, dark = rng.uniform(480, 720), (38, 44, 48)
    draw_on.ellipse((x - 200, 586, x + 200, 626), fill=_mix(ground, (0, 0, 0), 0.14))
    for foot in (-150, -10, 140):
        draw_on.line((x, 340, x + foot, 606), fill=dark, width=14)
    tube = Image.new("RGBA", (520, 120))
    pen = ImageDraw.Draw(tube)
    pen.rounded_rectangle((30, 24, 440, 96), 14, fill=(*dark, 255))
    pen.rectangle((420, 14, 470, 106), fill=(56, 64, 70, 255))
    pen.rectangle((10, 44, 40, 76), fill=(90, 98, 102, 255))
    pen.line((70, 24, 70, 96), fill=(176, 138, 84, 255), width=8)
    turned = tube.rotate(rng.uniform(18, 40), expand=True, resample=Image.Resampling.BICUBIC)
    image.paste(turned, (int(x - turned.width / 2), int(330 - turned.height / 2)), turned)
    return image


@lru_cache(maxsize=256)
def draw(kind: str, number: int) -> bytes:
    """Draw a picture of a kind, different for each number, as JPEG of 1200 x 675 pixels."""
    rng = random.Random(f"{kind}:{number}")  # noqa: S311 - a drawing
    if kind == "silhouette":
        image = _silhouette(rng)
    else:
        image = _sky(rng)
        if kind == "meteor":
            _meteor(image, rng)
        if kind == "comet":
            _comet(image, rng)
        if kind == "dome":
            _dome(image, rng)
        else:
            _ridge(image, rng, rng.uniform(0.8, 0.88), (18, 28, 34))
            _ridge(image, rng, rng.uniform(0.9, 0.95), (8, 13, 16))
    out = io.BytesIO()
    image.save(out, "JPEG", quality=82)
    return out.getvalue()
