"""Replays: what a revision would make of a campaign's past decisions, and applying it."""
