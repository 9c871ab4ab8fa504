"""The types of films and sound, recognised by their first bytes."""

import re

__all__ = ["recording_kind"]

# (extension, first bytes); WHATWG MIME Sniffing, 6.2.
_BEGINNINGS = (
    ("mp4", re.compile(rb"....ftyp(?:isom|iso[2-9]|mp4[0-9]|avc1|dash|M4V |MSNV|mmp4)", re.DOTALL)),
    ("m4a", re.compile(rb"....ftypM4[AB] ", re.DOTALL)),
    ("webm", re.compile(rb"\x1a\x45\xdf\xa3.{0,60}?webm", re.DOTALL)),
    ("ogg", re.compile(rb"OggS\x00")),
    ("wav", re.compile(rb"RIFF....WAVE", re.DOTALL)),
    ("flac", re.compile(rb"fLaC")),
    ("mp3", re.compile(rb"ID3|\xff[\xe2\xe3\xf2\xf3\xfa\xfb]")),
)


def recording_kind(beginning: bytes) -> str | None:
    """Return the file extension of a film or sound from its first bytes.

    None for anything else.
    """
    return next((ending for ending, pattern in _BEGINNINGS if pattern.match(beginning)), None)
