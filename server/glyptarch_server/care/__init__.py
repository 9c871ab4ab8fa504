"""Health and metrics for the people who run the server."""
