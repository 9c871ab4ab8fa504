"""``./glyptarch faults``: kill processes and the database in the middle of long work."""
