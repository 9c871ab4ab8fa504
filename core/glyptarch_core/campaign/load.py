"""From plain data to a document, with every fault at once, each with its path and near miss."""

from collections.abc import Iterable, Mapping, Sequence
from difflib import get_close_matches
from typing import Any

from pydantic import BaseModel, ValidationError

from glyptarch_core.campaign.document import CampaignDocument
from glyptarch_core.errors import DocumentError, Fault

__all__ = ["faults_of", "load_document"]


def _known_keys(schema: Mapping[str, Any]) -> Iterable[str]:
    if isinstance(schema.get("properties"), Mapping):
        yield from schema["properties"]
    for value in schema.values():
        for part in value if isinstance(value, list) else [value]:
            if isinstance(part, Mapping):
                yield from _known_keys(part)


def _hint(error: Mapping[str, Any], keys: Sequence[str]) -> str:
    if error["type"] == "extra_forbidden":
        near = get_close_matches(str(error["loc"][-1]), keys, n=1)
        return f"did you mean “{near[0]}”?" if near else "remove it, or look at the schema for its name"
    if error["type"] in {"enum", "literal_error", "union_tag_invalid"}:
        return str(error.get("ctx", {}).get("expected") or error.get("ctx", {}).get("expected_tags") or "")
    return ""


def faults_of(error: ValidationError, model: type[BaseModel]) -> list[Fault]:
    """Word every fault that pydantic found, with the path in the document."""
    keys = sorted(set(_known_keys(model.model_json_schema())))
    return [
        Fault(
            path=".".join(str(part) for part in detail["loc"]),
            message=detail["msg"].removeprefix("Value error, "),
            hint=_hint(detail, keys),
        )
        for detail in error.errors(include_url=False, include_input=False)
    ]


def load_document(data: Any) -> CampaignDocument:  # noqa: ANN401 - whatever a person wrote
    """Check plain data (as read from JSON or YAML) and give the document. Raises DocumentError."""
    try:
        return CampaignDocument.model_validate(data)
    except ValidationError as error:
        raise DocumentError(faults_of(error, CampaignDocument)) from error
