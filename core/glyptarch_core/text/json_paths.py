"""Paths to values in JSON from outside (JMESPath), without costly functions."""

import re
from functools import lru_cache
from typing import Any

import jmespath
from jmespath.exceptions import JMESPathError

__all__ = ["compile_path", "value_by"]

# The cost of these functions can grow far beyond the answer's size, and no field needs them.
_COSTLY = re.compile(r"\b(?:map|sort_by|max_by|min_by)\s*\(")


@lru_cache(maxsize=512)
def compile_path(text: str) -> Any:  # noqa: ANN401 - the library has no types
    """Compile a JMESPath. Raises ValueError with the reason."""
    if _COSTLY.search(text):
        raise ValueError("this function is not allowed in a path")
    try:
        return jmespath.compile(text)
    except (JMESPathError, RecursionError) as error:
        first = str(error).splitlines()[0] if str(error) else "it cannot be read"
        raise ValueError(f"this path cannot be read: {first[:200]}") from error


def value_by(path: str, value: Any) -> Any:  # noqa: ANN401 - any JSON value
    """Return the value at a path.

    The value itself for an empty path, None where there is none or the path does not fit the data.
    """
    if not path:
        return value
    try:
        return compile_path(path).search(value)
    except (JMESPathError, ArithmeticError, RecursionError, TypeError, ValueError):
        return None
