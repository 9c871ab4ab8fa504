"""The outside world, without any framework: fetching and the clock."""
