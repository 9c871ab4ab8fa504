"""Runs, decisions and proofs."""
