"""Rate limits."""
