"""A small podcast: one episode per story, with a tone, WebVTT text, and JSON chapters."""

import html
import io
import json
import math
import struct
import wave
from collections.abc import Sequence
from email.utils import format_datetime
from functools import lru_cache

from glyptarch_standins.stories import Site, Story

__all__ = ["chapters", "podcast_feed", "sound", "transcript"]

_PODCAST = "https://podcastindex.org/namespace/1.0"
_ITUNES = "http://www.itunes.com/dtds/podcast-1.0.dtd"
_RATE = 8000
_SECONDS = 12
_PART = 4
_EPISODES_OF_A_SEASON = 10


def podcast_feed(site: Site, stories: Sequence[Story], base: str) -> bytes:
    """Write the feed, with the elements of the open podcast namespace."""
    items = "".join(_item(site, story, base) for story in stories)
    return (
        f'<?xml version="1.0" encoding="utf-8"?><rss version="2.0" xmlns:podcast="{_PODCAST}" xmlns:itunes="{_ITUNES}">'
        f"<channel><title>{html.escape(site.title)}</title><link>{base}/{site.name}/</link>"
        f"<description>{html.escape(site.tagline)}</description><language>{site.language}</language>{items}</channel></rss>"
    ).encode()


def _item(site: Site, story: Story, base: str) -> str:
    here = f"{base}/{site.name}/episodes/{story.number}"
    season, episode = divmod(story.number, _EPISODES_OF_A_SEASON)
    about = html.escape(f"<p>{html.escape(story.paragraphs[0])}</p>")
    return (
        f"<item><title>{html.escape(story.title)}</title><link>{base}/{site.name}/notes/{story.number}</link>"
        f'<guid isPermaLink="false">{site.name}-{story.number}</guid><pubDate>{format_datetime(story.at)}</pubDate>'
        f"<description>{about}</description>"
        f'<enclosure url="{here}.wav" type="audio/wav" length="{len(sound(story.number))}"/>'
        f"<itunes:duration>{_SECONDS}</itunes:duration><podcast:season>{season + 1}</podcast:season>"
        f"<podcast:episode>{episode + 1}</podcast:episode>"
        f'<podcast:transcript url="{here}.vtt" type="text/vtt"/>'
        f'<podcast:chapters url="{here}.chapters.json" type="application/json+chapters"/></item>'
    )


@lru_cache(maxsize=32)
def sound(number: int) -> bytes:
    """Return the sound of an episode: a distinct tone that swells and fades."""
    pitch = 220 * 2 ** (number % 12 / 12)
    frames = bytearray()
    for step in range(_RATE * _SECONDS):
        at = step / _RATE
        loud = 6000 * math.sin(math.pi * at / _SECONDS) * (0.6 + 0.4 * math.sin(at * 3))
        frames += struct.pack("<h", round(loud * math.sin(2 * math.pi * pitch * at)))
    file = io.BytesIO()
    with wave.open(file, "wb") as written:
        written.setnchannels(1)
        written.setsampwidth(2)
        written.setframerate(_RATE)
        written.writeframes(bytes(frames))
    return file.getvalue()


def transcript(story: Story) -> str:
    """Return the text of an episode as WebVTT."""
    cues = [
        f"00:00:{begin:02}.000 --> 00:00:{begin + _PART:02}.000\n{said}"
        for begin, said in zip(range(0, 60 - _PART, _PART), story.paragraphs, strict=False)
    ]
    return "WEBVTT\n\n" + "\n\n".join(cues) + "\n"


def chapters(story: Story) -> str:
    """Return the chapters of an episode (JSON chapters of the podcast namespace, version 1.2)."""
    titles = ("Opening", story.title, "What to look for next")
    rows = [{"startTime": _PART * place, "title": title} for place, title in enumerate(titles)]
    return json.dumps({"version": "1.2.0", "chapters": rows})
