"""All rules and sources of a blog as one file: taken out, compared, and brought in."""
