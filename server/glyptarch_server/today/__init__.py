"""The first screen of the desk: recent events, upcoming ones, and tasks for people."""
