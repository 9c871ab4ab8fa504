"""The one parser for YAML from people, with limits checked before anything is built."""

from typing import Any

import yaml
from glyptarch_core.text import clean_json

__all__ = ["YamlFault", "load_yaml", "write_yaml"]

_LONGEST = 500_000
_DEEPEST = 40
_MOST_NODES = 100_000


class YamlFault(Exception):
    """A text refused as YAML: the reason, the line, and the remedy."""

    def __init__(self, message: str, hint: str = "") -> None:
        super().__init__(f"{message}; {hint}" if hint else message)
        self.message, self.hint = message, hint


def load_yaml(text: str, *, longest: int = _LONGEST, most_nodes: int = _MOST_NODES) -> Any:  # noqa: ANN401 - any value of YAML
    """Return the value of a YAML text, as JSON could hold it. Raises YamlFault."""
    if len(text) > longest:
        raise YamlFault(f"a text may have {longest} characters")
    try:
        _look_through(text, most_nodes)
        return clean_json(yaml.load(text, yaml.CSafeLoader))
    except yaml.YAMLError as error:
        mark = getattr(error, "problem_mark", None)
        where = f"line {mark.line + 1}, column {mark.column + 1}: " if mark else ""
        message = f"{where}{getattr(error, 'problem', None) or 'this is no YAML'}"
        raise YamlFault(message, "look at the indentation there") from error
    except (ValueError, TypeError, AttributeError, LookupError, OverflowError, RecursionError) as error:
        # A scalar that does not fit its type: the date 2024-13-45, !!int abc, a number of 5,000 digits.
        raise YamlFault(f"a value cannot be read: {str(error)[:200]}", "put it in quotes to have it as text") from error


def write_yaml(data: Any) -> str:  # noqa: ANN401 - any JSON value
    """Return a value as YAML, its names in their order."""
    text: str = yaml.safe_dump(data, sort_keys=False, allow_unicode=True, width=100)
    return text


def _look_through(text: str, most_nodes: int) -> None:
    """Refuse documents beyond the limits before anything is built from them.

    Aliases repeat one value in many places, so a few lines of them can stand for billions of values.
    """
    depth = 0
    for number, event in enumerate(yaml.parse(text, yaml.CSafeLoader)):
        depth += isinstance(event, yaml.CollectionStartEvent) - isinstance(event, yaml.CollectionEndEvent)
        if isinstance(event, yaml.AliasEvent):
            line = event.start_mark.line + 1 if event.start_mark else 0
            raise YamlFault(f"line {line}: aliases are not taken", "write the value out")
        if depth > _DEEPEST or number > most_nodes:
            raise YamlFault(f"a text is nested at most {_DEEPEST} deep, and has at most {most_nodes} values")
