"""What a blog keeps for its campaigns, together with the pictures that their lead images are taken from."""

from collections.abc import Collection
from dataclasses import replace

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.ports import BlogContext

from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import blog_context_of
from glyptarch_server.media.queries import pools_of

__all__ = ["context_for"]


def context_for(blog: Blog, documents: Collection[CampaignDocument]) -> BlogContext:
    """Give what these rules may ask of a blog; only what they ask for is read."""
    labels = {label for document in documents for label in document.uses_pools}
    return replace(blog_context_of(blog, documents), pictures=pools_of(blog.pk, labels))
