"""Captions of films and sound as paragraphs of text: WebVTT (W3C) and SubRip."""

import re

from glyptarch_core.text import text_to_html

__all__ = ["captions_as_html", "captions_as_text"]

_TIMES = re.compile(
    r"^\s*(?:(\d{1,3}):)?(\d{1,2}):(\d{2})[.,](\d{3})\s*-->\s*(?:(\d{1,3}):)?(\d{1,2}):(\d{2})[.,](\d{3})"
)
_TAG = re.compile(r"<[^<>]{0,200}>")
_SETTINGS = re.compile(r"^(?:WEBVTT|NOTE|STYLE|REGION)\b")
_END = re.compile(r"[.!?…。！？؟।][\"'”»）)]?$")
_PAUSE = 2.0
_SENTENCES = 5


def _seconds(hours: str | None, minutes: str, seconds: str, thousandths: str) -> float:
    return int(hours or 0) * 3600 + int(minutes) * 60 + int(seconds) + int(thousandths) / 1000


def _cues(text: str) -> list[tuple[float, float, str]]:
    """Return the cues of captions: begin and end in seconds, and text."""
    cues: list[tuple[float, float, str]] = []
    for block in re.split(r"\n[ \t]*\n", text.replace("\r\n", "\n").replace("\r", "\n")):
        lines = block.strip("\n").split("\n")
        if not lines or (_SETTINGS.match(lines[0].lstrip("\ufeff")) and not any(_TIMES.match(line) for line in lines)):
            continue
        place = next((number for number, line in enumerate(lines) if _TIMES.match(line)), None)
        if place is None:
            continue
        times = _TIMES.match(lines[place])
        assert times is not None  # noqa: S101 - just matched
        said = " ".join(_TAG.sub("", line).strip() for line in lines[place + 1 :]).strip()
        if said:
            begin, end = _seconds(*times.groups()[:4]), _seconds(*times.groups()[4:])
            cues.append((begin, end, " ".join(said.split())))
    return cues


def captions_as_text(text: str) -> str:
    """Return the text of captions.

    Empty where there are none. A pause of two seconds after a sentence, or five sentences, end a paragraph. A line
    repeated by rolling captions is kept once.
    """
    paragraphs: list[list[str]] = [[]]
    sentences, before, last_end = 0, "", 0.0
    for begin, end, said in _cues(text):
        if said == before:
            last_end = end
            continue
        ended = bool(paragraphs[-1]) and bool(_END.search(paragraphs[-1][-1]))
        if ended and (begin - last_end >= _PAUSE or sentences >= _SENTENCES):
            paragraphs.append([])
            sentences = 0
        paragraphs[-1].append(said)
        sentences += bool(_END.search(said))
        before, last_end = said, end
    return "\n\n".join(" ".join(parts) for parts in paragraphs if parts)


def captions_as_html(text: str) -> str:
    """Return the text of captions as HTML paragraphs."""
    said = captions_as_text(text)
    return text_to_html(said) if said else ""
