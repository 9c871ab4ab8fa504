"""Who did what, and when."""
