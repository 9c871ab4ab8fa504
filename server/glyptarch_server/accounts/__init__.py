"""People who sign in."""
