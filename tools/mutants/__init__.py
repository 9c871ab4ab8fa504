"""Changes of the code that tests must notice: each takes one protection away."""
