"""Feeds that are pushed to us by a hub (WebSub, W3C Recommendation 2018)."""
