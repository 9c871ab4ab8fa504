"""Offers: products of shops, their prices, and how often they are read."""
