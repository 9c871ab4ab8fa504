"""Code shared by the apps of the server."""
