"""The task of walks."""

from glyptarch_server.archives import actions
from glyptarch_server.tasks.kinds import Kind, register

__all__: list[str] = []

register(Kind(name="older", carry=actions.carry_out, end=actions.end_with_task))
