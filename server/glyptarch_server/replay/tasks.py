"""The tasks of replays: comparing posts with rules, and applying the results."""

from glyptarch_server.replay import actions, applying
from glyptarch_server.tasks.kinds import Kind, register

__all__: list[str] = []

register(Kind(name="replay", carry=actions.carry_out, end=actions.end_with_task))
register(Kind(name="apply", carry=applying.carry_out, end=applying.end_with_task))
