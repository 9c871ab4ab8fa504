"""Campaign documents as YAML, for export, version control and import."""

from typing import Any

import yaml
from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.errors import DocumentError, Fault

__all__ = ["from_yaml", "to_yaml"]

_LONGEST = 500_000
_HEAD = "# The rules of a Glyptarch campaign. Its schema: GET /api/campaign-schema (JSON Schema 2020-12).\n"


def to_yaml(document: CampaignDocument) -> str:
    """Write a document, all of it, in the order of the stages."""
    data = document.model_dump(mode="json")
    return _HEAD + yaml.safe_dump(data, sort_keys=False, allow_unicode=True, width=100)


def from_yaml(text: str) -> CampaignDocument:
    """Read a document. Raises DocumentError with every fault, or with the line where the YAML breaks."""
    if len(text) > _LONGEST:
        raise DocumentError([Fault(path="", message=f"a document may have {_LONGEST} characters", hint="")])
    try:
        data: Any = yaml.safe_load(text)
    except yaml.YAMLError as error:
        mark = getattr(error, "problem_mark", None)
        where = f"line {mark.line + 1}, column {mark.column + 1}: " if mark else ""
        message = f"{where}{getattr(error, 'problem', None) or 'this is no YAML'}"
        raise DocumentError([Fault(path="", message=message, hint="look at the indentation there")]) from error
    return load_document(data if data is not None else {})
