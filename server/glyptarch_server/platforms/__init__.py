"""Connections to platforms, and their requests."""
