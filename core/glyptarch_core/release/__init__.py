"""Release: whether a post goes out, waits for a person, or stays a draft."""

from glyptarch_core.release.rights import Allowed, allow
from glyptarch_core.release.stage import ReleaseMode, ReleaseSettings, release

__all__ = ["Allowed", "ReleaseMode", "ReleaseSettings", "allow", "release"]
