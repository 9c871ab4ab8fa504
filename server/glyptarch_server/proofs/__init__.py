"""Proofs: dry runs over captured items."""
