"""Messages by mail."""
