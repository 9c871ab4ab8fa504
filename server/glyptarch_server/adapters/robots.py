"""The rules of robots.txt (RFC 9309), by the library Protego."""

from dataclasses import dataclass

from protego import Protego

__all__ = ["Robots"]

_LARGEST = 500 << 10
_LONGEST_DELAY = 60.0


@dataclass(frozen=True, slots=True)
class Robots:
    """The rules of a site. Without a robots.txt everything is allowed (RFC 9309, 2.3.1.3).

    One that a fault of the server or the network withholds closes the site meanwhile (2.3.1.4).
    """

    rules: Protego | None = None
    agent: str = "Glyptarch"
    is_closed: bool = False

    @classmethod
    def read(cls, body: bytes, agent: str) -> "Robots":
        """Parse the first 500 KiB of a robots.txt (RFC 9309, 2.5). Invalid lines are ignored."""
        return cls(Protego.parse(body[:_LARGEST].decode("utf-8", "replace")), agent)

    def allows(self, url: str) -> bool:
        """Whether an address may be fetched."""
        if self.is_closed:
            return False
        return self.rules is None or bool(self.rules.can_fetch(url, self.agent))

    def pause_ms(self) -> int:
        """Return the Crawl-delay of the site in milliseconds, at most a minute."""
        delay = self.rules.crawl_delay(self.agent) if self.rules else None
        return round(min(float(delay or 0), _LONGEST_DELAY) * 1000)
