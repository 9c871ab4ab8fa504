"""What the API answers."""

from pydantic import BaseModel, ConfigDict

__all__ = ["Out"]


class Out(BaseModel):
    """An answer, made from values that are known already, or from the attributes of a row.

    Ninja's own schema looks up every attribute by the resolvers that a class may have. We have none, and a list of
    fifty posts is ready in two thirds of the time without it.
    """

    model_config = ConfigDict(from_attributes=True)
