"""The base of every part of a campaign document: typed, frozen, strict about unknown keys."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

__all__ = ["LanguageTag", "LibraryKey", "OptionalAddress", "RuleId", "RuleSettings", "Settings", "ShortText"]

RuleId = Annotated[str, StringConstraints(pattern=r"^[a-z0-9-]{1,40}$")]
"""Names a rule within its document, so that traces and edits can speak of it."""

LibraryKey = Annotated[str, StringConstraints(pattern=r"^[a-z0-9-]{1,60}$")]
"""Names what is kept for the blog: a source, a word list, a table of terms."""

LanguageTag = Annotated[str, StringConstraints(pattern=r"^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$", max_length=20)]
"""The tag of a language (BCP 47), such as ``de`` or ``pt-BR``."""

SourceLabel = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]
"""Names all sources of the blog that people gave this label."""

OptionalAddress = Annotated[str, StringConstraints(max_length=2000, pattern=r"^$|^https?://")]
"""An address of the web, or nothing."""

ShortText = Annotated[str, StringConstraints(strip_whitespace=True, max_length=300)]


class Settings(BaseModel):
    """Part of a campaign document. Unknown keys are faults."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class RuleSettings(Settings):
    """A rule or step: it has an id within the document and can be switched off.

    ``title`` is a person's name for it, shown in traces.
    """

    id: RuleId = Field(description="Unique within its list.")
    title: Annotated[str, StringConstraints(strip_whitespace=True, max_length=60)] = ""
    on: bool = True

    @property
    def uses_lists(self) -> tuple[str, ...]:
        """Return the keys of the word lists that the rule uses."""
        return ()
