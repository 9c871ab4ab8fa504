"""Measurements: ratios against a baseline in the same run, and accuracy on labelled sets."""
