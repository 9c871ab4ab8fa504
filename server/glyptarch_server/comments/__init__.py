"""Comments of readers, moderated by an editor."""
