"""Connections to platforms, and what is asked of them."""
