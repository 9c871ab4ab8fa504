"""Sets a machine up and starts Glyptarch on it. Standard library only: it runs before anything is installed."""
