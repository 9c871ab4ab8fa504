"""Running the tests: databases, processes, and costs."""
