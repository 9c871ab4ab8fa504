"""Release: whether a post goes out, waits for a person, or stays a draft."""

from glyptarch_core.release.stage import ReleaseMode, ReleaseSettings, release

__all__ = ["ReleaseMode", "ReleaseSettings", "release"]
