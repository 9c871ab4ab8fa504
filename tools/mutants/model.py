"""What a change is."""

from dataclasses import dataclass

__all__ = ["Mutant"]


@dataclass(frozen=True, slots=True)
class Mutant:
    """A change that must be noticed, and the tests that are to notice it (modules or classes, several with spaces)."""

    what: str
    file: str
    old: str
    new: str
    tests: str
