"""Sets a machine up and starts Glyptarch.

Standard library only, because it runs before anything is installed.
"""
