"""Campaigns and the revisions of their rules."""
