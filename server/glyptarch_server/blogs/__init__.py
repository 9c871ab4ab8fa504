"""Blogs, their categories, tags and bylines, and who may do what on them."""
