"""The simulated outside world: invented feeds and sites, served over HTTP on loopback.

Deterministic: the state of a source follows from a seed and the moment.
"""
