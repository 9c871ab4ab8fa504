"""Captured items."""
