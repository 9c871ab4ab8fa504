"""Who works on a blog, and how people join."""
