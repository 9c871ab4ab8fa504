"""The first screen of the desk: what happened, what comes, and what needs a person."""
