"""Settings, addresses and entry points."""
