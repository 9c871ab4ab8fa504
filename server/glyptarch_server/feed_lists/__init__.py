"""Lists of feeds that become sources in one go."""
