"""The rules of the job: captured items in, explained decisions out.

Nothing in this package opens a file, a socket or a process, and nothing reads a clock: what it
needs from outside comes in with the call (see :mod:`glyptarch_core.ports`).
"""
