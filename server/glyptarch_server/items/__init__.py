"""Captured items, kept as they came."""
