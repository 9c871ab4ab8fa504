"""Where items come from, and how reading them went."""
