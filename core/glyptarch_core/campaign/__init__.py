"""The campaign document: all rules of a campaign as one typed value."""

from glyptarch_core.campaign.document import MOST_SOURCES, BodyFrom, CampaignDocument, GatherSettings, SiftSettings
from glyptarch_core.campaign.load import document_path, load_document, worded

__all__ = [
    "MOST_SOURCES",
    "BodyFrom",
    "CampaignDocument",
    "GatherSettings",
    "SiftSettings",
    "document_path",
    "load_document",
    "worded",
]
