"""Bringing posts to rules: what another revision would make of what a campaign has decided, and applying it."""
