"""Readers: from the bytes of a feed to items and warnings. Pure.

Any bytes give items or ParseError.
"""

from glyptarch_core.readers.discover import FeedLink, discover_feeds
from glyptarch_core.readers.feed import Feed, FeedEntry, ReadWarning, read_feed
from glyptarch_core.readers.page import page_picture

__all__ = ["Feed", "FeedEntry", "FeedLink", "ReadWarning", "discover_feeds", "page_picture", "read_feed"]
