"""The categories, tags and bylines of a blog: renamed, put in order, merged."""
