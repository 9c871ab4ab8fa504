"""``./glyptarch faults``: kill processes and the database in the middle of each kind of long work."""
