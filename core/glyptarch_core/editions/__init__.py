"""Other versions of a text: in other words, and in fewer."""

from glyptarch_core.editions.rewording import Synonym, Synonyms, read_synonym, same_runs
from glyptarch_core.editions.summary import summary

__all__ = ["Synonym", "Synonyms", "read_synonym", "same_runs", "summary"]
