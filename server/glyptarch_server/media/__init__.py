"""Copies of pictures, films and sound that a blog keeps itself, and the pictures that people give it."""
