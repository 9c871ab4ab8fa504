"""The stage itself."""

from collections.abc import Sequence
from enum import StrEnum

from glyptarch_core.settings import Settings
from glyptarch_core.trace import Note, Stage, Verdict

__all__ = ["ReleaseMode", "ReleaseSettings", "release"]


class ReleaseMode(StrEnum):
    """What happens to a post that nothing spoke against."""

    PUBLISH = "publish"
    HOLD = "hold"
    DRAFT = "draft"


class ReleaseSettings(Settings):
    """How posts go out."""

    mode: ReleaseMode = ReleaseMode.HOLD


def release(settings: ReleaseSettings, held_by: Sequence[Note]) -> tuple[Verdict, Note]:
    """Decide how a post goes out; a rule that asked for a person's eye wins over “publish”."""
    verdict = Verdict(settings.mode.value)
    if held_by and verdict is Verdict.PUBLISH:
        rules = [note.rule for note in held_by]
        return Verdict.HOLD, Note(stage=Stage.RELEASE, code="held.by_rule", data={"rules": rules})
    codes = {
        Verdict.PUBLISH: "published",
        Verdict.HOLD: "held.by_campaign",
        Verdict.DRAFT: "drafted",
    }
    return verdict, Note(stage=Stage.RELEASE, code=codes[verdict])
