"""The campaign document: all rules of a campaign as one typed value."""

from glyptarch_core.campaign.document import BodyFrom, CampaignDocument, GatherSettings, SiftSettings
from glyptarch_core.campaign.load import faults_of, load_document

__all__ = ["BodyFrom", "CampaignDocument", "GatherSettings", "SiftSettings", "faults_of", "load_document"]
