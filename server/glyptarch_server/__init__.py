"""The server: rows, jobs, API and pages around the core."""
