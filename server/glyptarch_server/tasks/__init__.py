"""Long work: what it is, how far it is, and the one way in which it is carried out."""
