"""The public pages of a blog."""
