"""What people are told by mail."""
