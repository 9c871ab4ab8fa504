"""Posts, their states, and the keys they are remembered by."""
