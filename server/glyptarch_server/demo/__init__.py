"""Demo data: a month of the Dark Meadow Almanac, made by the same code that runs every day."""
