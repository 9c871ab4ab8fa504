"""Members of a blog and invitations."""
