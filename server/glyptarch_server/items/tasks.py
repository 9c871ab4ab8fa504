"""The task that asks the pages of a source for their texts."""

from glyptarch_server.items import page_pictures
from glyptarch_server.tasks.kinds import Kind, register

__all__: list[str] = []

register(Kind(name="texts", carry=page_pictures.carry_out))
