"""The task of lists of feeds."""

from glyptarch_server.feed_lists import actions
from glyptarch_server.tasks.kinds import Kind, register

__all__: list[str] = []

register(Kind(name="feed_list", carry=actions.carry_out))
