"""Sources and their readings."""
