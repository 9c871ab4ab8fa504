"""Mails about a blog's problems, runs and posts."""
