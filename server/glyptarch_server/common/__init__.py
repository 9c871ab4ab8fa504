"""What every app of the server shares."""
