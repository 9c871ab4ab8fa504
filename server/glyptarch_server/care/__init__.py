"""What whoever runs the server needs to know: whether it lives, and how it does."""
