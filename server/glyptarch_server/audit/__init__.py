"""The audit of people's actions."""
