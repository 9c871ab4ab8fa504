"""Language services, what they are asked, and the memory of their answers."""
