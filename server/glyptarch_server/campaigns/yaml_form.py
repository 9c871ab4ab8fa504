"""Campaign documents as YAML, for export, version control and import."""

from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.errors import DocumentError, Fault

from glyptarch_server.common.yaml_text import YamlFault, load_yaml, write_yaml

__all__ = ["from_yaml", "to_yaml"]

_HEAD = "# The rules of a Glyptarch campaign. Its schema: GET /api/campaign-schema (JSON Schema 2020-12).\n"


def to_yaml(document: CampaignDocument) -> str:
    """Write a document, all of it, in the order of the stages."""
    return _HEAD + write_yaml(document.model_dump(mode="json"))


def from_yaml(text: str) -> CampaignDocument:
    """Parse a document. Raises DocumentError with every fault, or with the line of a YAML error."""
    try:
        data = load_yaml(text)
    except YamlFault as fault:
        raise DocumentError([Fault(path="", message=fault.message, hint=fault.hint)]) from fault
    if data is None or data == {}:
        raise DocumentError([Fault(path="", message="there are no rules in it", hint="paste a whole document")])
    return load_document(data)
