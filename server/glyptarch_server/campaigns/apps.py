"""Django's handle on this app."""

from django.apps import AppConfig

__all__ = ["CampaignsConfig"]


class CampaignsConfig(AppConfig):
    """Campaigns and the revisions of their rules."""

    name = "glyptarch_server.campaigns"
    label = "campaigns"
    default_auto_field = "django.db.models.BigAutoField"
