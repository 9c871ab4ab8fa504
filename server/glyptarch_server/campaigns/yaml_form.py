"""Campaign documents as YAML, for export, version control and import."""

from typing import Any

import yaml
from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.errors import DocumentError, Fault
from glyptarch_core.text import clean_json

__all__ = ["from_yaml", "to_yaml"]

_LONGEST = 500_000
_DEEPEST = 40
_MOST_NODES = 100_000
_HEAD = "# The rules of a Glyptarch campaign. Its schema: GET /api/campaign-schema (JSON Schema 2020-12).\n"


def to_yaml(document: CampaignDocument) -> str:
    """Write a document, all of it, in the order of the stages."""
    data = document.model_dump(mode="json")
    return _HEAD + yaml.safe_dump(data, sort_keys=False, allow_unicode=True, width=100)


def from_yaml(text: str) -> CampaignDocument:
    """Read a document. Raises DocumentError with every fault, or with the line where the YAML breaks."""
    if len(text) > _LONGEST:
        raise _fault(f"a document may have {_LONGEST} characters")
    try:
        _look_through(text)
        data: Any = yaml.load(text, yaml.CSafeLoader)
    except yaml.YAMLError as error:
        mark = getattr(error, "problem_mark", None)
        where = f"line {mark.line + 1}, column {mark.column + 1}: " if mark else ""
        message = f"{where}{getattr(error, 'problem', None) or 'this is no YAML'}"
        raise _fault(message, "look at the indentation there") from error
    except (ValueError, TypeError, AttributeError, LookupError) as error:
        # A value that says what it is and is not: the date 2024-13-45, !!int abc, a number of 5,000 digits.
        raise _fault(f"a value cannot be read: {error}", "put it in quotes to have it as text") from error
    if data is None or data == {}:
        raise _fault("there are no rules in it", "paste a whole document")
    return load_document(clean_json(data))


def _fault(message: str, hint: str = "") -> DocumentError:
    return DocumentError([Fault(path="", message=message, hint=hint)])


def _look_through(text: str) -> None:
    """Refuse what costs more than a document can be worth, before anything is built from it.

    Aliases name one value in many places: a few lines of them stand for billions of values.
    """
    depth = 0
    for number, event in enumerate(yaml.parse(text, yaml.CSafeLoader)):
        depth += isinstance(event, yaml.CollectionStartEvent) - isinstance(event, yaml.CollectionEndEvent)
        if isinstance(event, yaml.AliasEvent):
            line = event.start_mark.line + 1 if event.start_mark else 0
            raise _fault(f"line {line}: aliases are not taken", "write the value out")
        if depth > _DEEPEST or number > _MOST_NODES:
            raise _fault(f"a document is nested at most {_DEEPEST} deep, and has at most {_MOST_NODES} values")
