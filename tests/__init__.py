"""Tests."""

from hypothesis import settings

# Machines differ in speed, and time is measured in benchmarks alone.
settings.register_profile("glyptarch", deadline=None)
settings.load_profile("glyptarch")
