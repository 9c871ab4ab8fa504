"""What readers say under a post; an editor reads it before it is shown."""
