"""Copies of pictures, films and sound, and pictures uploaded by people."""
