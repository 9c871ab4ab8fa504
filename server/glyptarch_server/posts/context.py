"""The values that a blog shares among campaigns, with the pictures for their leads."""

from collections.abc import Collection
from dataclasses import replace

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.language_services import NO_TEXTS
from glyptarch_core.ports import BlogContext

from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import blog_context_of
from glyptarch_server.media.queries import pools_of
from glyptarch_server.services.queries import KeptTexts

__all__ = ["context_for"]


def context_for(blog: Blog, documents: Collection[CampaignDocument]) -> BlogContext:
    """Return the shared values of a blog, limited to those that these rules use."""
    texts = KeptTexts(blog.pk) if any(document.uses_services for document in documents) else NO_TEXTS
    labels = {label for document in documents for label in document.uses_pools}
    return replace(blog_context_of(blog, documents), pictures=pools_of(blog.pk, labels), texts=texts)
