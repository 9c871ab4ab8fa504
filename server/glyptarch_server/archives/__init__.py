"""Older items of a source: paging back through its archive."""
