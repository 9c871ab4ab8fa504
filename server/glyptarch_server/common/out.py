"""The base of API answers."""

from pydantic import BaseModel, ConfigDict

__all__ = ["Out"]


class Out(BaseModel):
    """An answer made from known values or from the attributes of a row.

    Ninja's own schema looks up every attribute among resolvers, which we do not use. Without it a list of fifty posts
    takes two thirds of the time.
    """

    model_config = ConfigDict(from_attributes=True)
