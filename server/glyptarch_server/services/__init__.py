"""Language services: their descriptions, what they are asked, and the memory of their answers."""
