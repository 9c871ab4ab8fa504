"""Plain data to a document, with all faults, their paths and the nearest valid keys."""

from collections.abc import Iterable, Mapping, Sequence
from difflib import get_close_matches
from functools import cache
from typing import Any

from pydantic import ValidationError

from glyptarch_core.campaign.document import CampaignDocument
from glyptarch_core.errors import DocumentError, Fault

__all__ = ["document_path", "load_document", "worded"]


def _properties(schema: Mapping[str, Any]) -> Iterable[tuple[str, Mapping[str, Any]]]:
    """Yield every property of a JSON Schema, at any depth, with its name."""
    if isinstance(schema.get("properties"), Mapping):
        yield from schema["properties"].items()
    for value in schema.values():
        for part in value if isinstance(value, list) else [value]:
            if isinstance(part, Mapping):
                yield from _properties(part)


@cache
def _keys() -> tuple[str, ...]:
    """Return every key that a document may have."""
    return tuple(sorted({name for name, _ in _properties(CampaignDocument.model_json_schema())}))


@cache
def _lists_of_kinds() -> frozenset[str]:
    """Return the names of the lists whose entries are of several kinds."""
    properties = _properties(CampaignDocument.model_json_schema())
    return frozenset(name for name, schema in properties if "discriminator" in schema.get("items", {}))


def document_path(location: Sequence[str | int]) -> str:
    """Return a pydantic location as a path in the document: ``sift.rules.2.terms``.

    Pydantic names the kind of an entry as a step of its own; the path leaves it out.
    """
    parts: list[str] = []
    before: tuple[str | int, str | int] = ("", "")
    for part in location:
        name, entry = before
        if not (isinstance(entry, int) and name in _lists_of_kinds()):
            parts.append(str(part))
        before = entry, part
    return ".".join(parts)


def _hint(error: Mapping[str, Any]) -> str:
    if error["type"] == "extra_forbidden":
        near = get_close_matches(str(error["loc"][-1]), _keys(), n=1)
        return f"did you mean “{near[0]}”?" if near else "remove it, or look at the schema for its name"
    if error["type"] == "union_tag_invalid":
        return f"known are {error['ctx']['expected_tags']}"
    return ""


_WORDS = {
    "missing": "is missing",
    "extra_forbidden": "no such key is known",
    "union_tag_not_found": "does not say its kind",
    "union_tag_invalid": "there is no such kind",
    "string_pattern_mismatch": "must be written as {pattern}",
    "string_too_short": "must have at least {min_length} characters",
    "string_too_long": "may have at most {max_length} characters",
    "too_short": "must have at least {min_length}, has {actual_length}",
    "too_long": "may have at most {max_length}",
    "model_type": "must be a mapping of keys to values",
    "tuple_type": "must be a list",
    "greater_than_equal": "must be at least {ge}",
    "less_than_equal": "must be at most {le}",
}


def worded(error: Mapping[str, Any]) -> str:
    """Return pydantic's message, reworded where the words of this product are plainer."""
    words = _WORDS.get(error["type"])
    if words is None:
        return str(error["msg"]).removeprefix("Value error, ").replace("Input should be", "must be")
    return words.format(**error.get("ctx", {}))


def _follows(error: Mapping[str, Any], errors: Sequence[Mapping[str, Any]]) -> bool:
    """Whether a list is too short only because one of its entries is invalid."""
    place = error["loc"]
    return error["type"] == "too_short" and any(
        len(other["loc"]) > len(place) and other["loc"][: len(place)] == place for other in errors
    )


def load_document(data: Any) -> CampaignDocument:  # noqa: ANN401 - whatever a person wrote
    """Check plain data (as read from JSON or YAML) and give the document. Raises DocumentError."""
    try:
        return CampaignDocument.model_validate(data)
    except ValidationError as error:
        errors = error.errors(include_url=False, include_input=False)
        raise DocumentError(
            [
                Fault(path=document_path(error["loc"]), message=worded(error), hint=_hint(error))
                for error in errors
                if not _follows(error, errors)
            ]
        ) from error
