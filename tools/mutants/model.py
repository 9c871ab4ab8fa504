"""The form of a mutant."""

from dataclasses import dataclass

__all__ = ["Mutant"]


@dataclass(frozen=True, slots=True)
class Mutant:
    """A change of one line, and the test modules or classes that must notice it."""

    what: str
    file: str
    old: str
    new: str
    tests: str
