"""The simulated outside world: invented feeds and sites, served over real HTTP on loopback.

Deterministic: what a source has written at a moment follows from a seed and that moment alone.
"""
