"""The kinds of filter rules, one in each module.

A module has ``KIND``. The registry finds it there, and the desk draws a described kind by itself.
"""
