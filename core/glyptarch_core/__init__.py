"""The rules of the job: captured items in, explained decisions out.

Nothing in this package opens a file, a socket or a process, and nothing reads a clock. Whatever it needs from outside
is an argument (see :mod:`glyptarch_core.ports`).
"""
