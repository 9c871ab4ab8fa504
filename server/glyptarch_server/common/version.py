"""The version of Glyptarch.

CHANGELOG.md says what each one brings.
"""

__all__ = ["VERSION"]

VERSION = "0.8.0"
