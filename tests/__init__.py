"""Tests."""

from hypothesis import settings

# The speed of machines differs, so time is measured only in benchmarks.
settings.register_profile("glyptarch", deadline=None)
settings.load_profile("glyptarch")
