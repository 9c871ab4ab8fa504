"""What a site lets robots read: robots.txt (RFC 9309), with the library Protego."""

from dataclasses import dataclass

from protego import Protego

__all__ = ["Robots"]

_LARGEST = 500 << 10
_LONGEST_DELAY = 60.0


@dataclass(frozen=True, slots=True)
class Robots:
    """The rules of a site. Without a robots.txt there are none: everything is allowed (RFC 9309, 2.3.1.3)."""

    rules: Protego | None = None
    agent: str = "Glyptarch"

    @classmethod
    def read(cls, body: bytes, agent: str) -> "Robots":
        """Read the first 500 KiB of a robots.txt (RFC 9309, 2.5). Whatever is odd in it is passed over."""
        return cls(Protego.parse(body[:_LARGEST].decode("utf-8", "replace")), agent)

    def allows(self, url: str) -> bool:
        """Tell whether an address may be read."""
        return self.rules is None or bool(self.rules.can_fetch(url, self.agent))

    def pause_ms(self) -> int:
        """Give the pause between two requests that the site asks for (Crawl-delay), at most a minute."""
        delay = self.rules.crawl_delay(self.agent) if self.rules else None
        return round(min(float(delay or 0), _LONGEST_DELAY) * 1000)
