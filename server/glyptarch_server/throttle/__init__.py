"""How often somebody may try something."""
