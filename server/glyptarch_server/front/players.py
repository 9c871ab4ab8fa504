"""Players of films elsewhere.

They are shown only for hosts that the blog allows, and only when a reader presses Play.
"""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from html import unescape
from typing import Any
from urllib.parse import urlsplit

from django.template.loader import render_to_string

__all__ = ["PlayerView", "player_of", "with_players"]


@dataclass(frozen=True, slots=True, kw_only=True)
class PlayerView:
    """A player of a film elsewhere: its address and origin, and width by height of the film."""

    url: str
    origin: str
    ratio: float


_RATIOS = (0.4, 4.0)
_USUAL_RATIO = 16 / 9


def player_of(facts: Mapping[str, Any], hosts: Sequence[str]) -> PlayerView | None:
    """Return the player that the facts of an item name, where its host is allowed."""
    url = str(facts.get("player") or "")
    try:
        parts = urlsplit(url)
        ratio = float(facts.get("ratio") or _USUAL_RATIO)
    except ValueError:
        return None
    if parts.scheme not in {"http", "https"} or parts.netloc.lower() not in hosts:
        return None
    least, most = _RATIOS
    return PlayerView(
        url=url, origin=f"{parts.scheme}://{parts.netloc.lower()}", ratio=round(min(max(ratio, least), most), 4)
    )


# What Shape makes of a frame in the text of a source.
_FILM = re.compile(r'<figure class="film">\s*<a\b[^>]*?\bhref="([^"]{1,4000})"[^>]*>[^<]*</a>\s*</figure>')


def with_players(body: str, hosts: Sequence[str], title: str, *, preview: bool = False) -> tuple[str, list[str]]:
    """Return a sanitised text with players in it, and their origins.

    A player takes the place of each link to a film on an allowed host. Links to other hosts stay. In a ``preview``
    nothing is framed.
    """
    origins: list[str] = []

    def player(film: re.Match[str]) -> str:
        shown = player_of({"player": unescape(film[1])}, hosts)
        if shown is None:
            return film[0]
        origins.append(shown.origin)
        return render_to_string("front/player.html", {"player": shown, "title": title, "preview": preview})

    return (_FILM.sub(player, body) if hosts else body), list(dict.fromkeys(origins))
