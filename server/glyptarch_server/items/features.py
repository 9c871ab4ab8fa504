"""Storing an item's features in its row."""

from glyptarch_core.item import FEATURES_VERSION, Features

from glyptarch_server.items.models import Item

__all__ = ["FEATURE_FIELDS", "set_features"]

FEATURE_FIELDS = (
    "text",
    "summary_text",
    "folded",
    "fingerprint",
    "words",
    "found_language",
    "identity_key",
    "link_key",
    "title_key",
    "features_version",
)
"""The fields of a row that :func:`set_features` writes."""


def set_features(row: Item, features: Features) -> None:
    """Put features into a row, which is not saved by it."""
    row.text, row.summary_text, row.folded = features.text.text, features.summary.text, features.text.folded
    row.fingerprint, row.words = features.fingerprint.packed(), features.words
    row.found_language = features.language
    row.identity_key, row.link_key, row.title_key = features.identity_key, features.link_key, features.title_key
    row.features_version = FEATURES_VERSION
