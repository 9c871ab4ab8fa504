"""Posts, and the keys by which a story is known to be there already."""

from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex, OpClass
from django.db import models
from django.db.models.functions import Upper
from glyptarch_core.draft import Visibility

from glyptarch_server.posts.lifecycle import PostState

__all__ = ["ON_THE_BLOG", "PAGE_KIND", "AlsoAt", "NearKeys", "Post", "PostKey"]


PAGE_KIND = "page"
"""The kind of posts that stand for themselves: they are in no list and no feed."""

ON_THE_BLOG = models.Q(state=PostState.PUBLISHED.value) & ~models.Q(kind=PAGE_KIND)
"""What the lists of a blog show, to its people; others see no private posts."""


class Post(models.Model):
    """What the rules made of an item. There is at most one for a campaign and an item.

    ``category`` is the main one of ``categories``. ``fields`` are those of the blog's own, as
    the core gives them. ``out_at`` is when it went out, which need not be its date.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="posts")
    campaign = models.ForeignKey("campaigns.Campaign", on_delete=models.PROTECT, related_name="posts")
    revision = models.ForeignKey("campaigns.Revision", on_delete=models.PROTECT, related_name="posts")
    item = models.ForeignKey("items.Item", on_delete=models.PROTECT, related_name="posts")
    # That of the item: lists are filtered by it.
    source = models.ForeignKey("sources.Source", on_delete=models.PROTECT, related_name="posts")
    state = models.CharField(max_length=10, choices=[(state.value, state.value) for state in PostState])
    title = models.CharField(max_length=300)
    slug = models.CharField(max_length=100)
    body = models.TextField()
    excerpt = models.TextField(blank=True)
    lead_url = models.CharField(max_length=4000, blank=True)
    lead_alt = models.CharField(max_length=300, blank=True)
    description = models.CharField(max_length=500, blank=True)
    fields = models.JSONField(default=list)
    category = models.ForeignKey("blogs.Category", on_delete=models.SET_NULL, null=True, related_name="main_posts")
    categories = models.ManyToManyField("blogs.Category", related_name="posts")
    tags = models.ManyToManyField("blogs.Tag", related_name="posts")
    byline = models.ForeignKey("blogs.Byline", on_delete=models.SET_NULL, null=True, related_name="posts")
    link = models.CharField(max_length=4000, blank=True)
    language = models.CharField(max_length=35, blank=True)
    attribution = models.CharField(max_length=300, blank=True)
    kind = models.CharField(max_length=40, default="article")
    comments = models.BooleanField(default=False)
    pinned = models.BooleanField(default=False)
    visibility = models.CharField(max_length=10, default=Visibility.PUBLIC.value)
    pass_phrase = models.CharField(max_length=80, blank=True)
    canonical = models.CharField(max_length=4000, blank=True)
    date = models.DateTimeField()
    out_at = models.DateTimeField(null=True)
    created_at = models.DateTimeField()
    changed_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["campaign", "item"], name="one_post_of_an_item"),
            models.UniqueConstraint(fields=["blog", "slug"], name="post_slug_once"),
            models.CheckConstraint(
                condition=models.Q(state__in=[state.value for state in PostState]), name="post_state_is_known"
            ),
            models.CheckConstraint(
                condition=models.Q(visibility__in=[one.value for one in Visibility]), name="post_visibility_is_known"
            ),
            models.CheckConstraint(
                condition=~models.Q(visibility=Visibility.PHRASE.value) | ~models.Q(pass_phrase=""),
                name="a_pass_phrase_where_one_is_asked_for",
            ),
        ]
        indexes = [
            models.Index(fields=["blog", "state", "-date", "-id"], name="post_by_state"),
            models.Index(fields=["blog", "-date", "-id"], name="post_by_date"),
            models.Index(fields=["blog", "title", "id"], name="post_by_title"),
            models.Index(fields=["blog", "-pinned", "-date", "-id"], condition=ON_THE_BLOG, name="post_on_the_blog"),
            models.Index(
                fields=["blog", "-pinned", "-date", "-id"],
                condition=ON_THE_BLOG & ~models.Q(visibility=Visibility.PRIVATE.value),
                name="post_for_everybody",
            ),
            models.Index(fields=["category", "-date", "-id"], name="post_by_category"),
            models.Index(fields=["campaign", "-date", "-id"], name="post_by_campaign"),
            models.Index(fields=["campaign", "state"], name="post_by_campaign_and_state"),
            models.Index(fields=["campaign", "created_at"], name="post_by_making"),
            models.Index(fields=["source", "-date", "-id"], name="post_by_source"),
            GinIndex(
                OpClass(Upper("title"), name="gin_trgm_ops"),
                OpClass(Upper("excerpt"), name="gin_trgm_ops"),
                name="post_search",
            ),
            models.Index(fields=["-changed_at"], name="post_by_change"),
            models.Index(fields=["campaign", "-out_at"], name="post_by_going_out"),
            models.Index(fields=["date"], condition=models.Q(state="scheduled"), name="post_by_time_to_go_out"),
            models.Index(fields=["blog", "-date"], condition=models.Q(pinned=True), name="post_pinned"),
        ]


class PostKey(models.Model):
    """A trait of a post, or of a duplicate of it, by which later items are compared with it.

    ``item`` is the one that has the trait, ``campaign`` the one that decided it. ``value_hash``
    is the SHA-256 of the key's value, so that its length does not matter.
    """

    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="keys")
    item = models.ForeignKey("items.Item", on_delete=models.CASCADE, related_name="+")
    campaign = models.ForeignKey("campaigns.Campaign", on_delete=models.CASCADE, related_name="+")
    kind = models.CharField(max_length=10)
    value_hash = models.CharField(max_length=64)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["value_hash", "kind", "post", "item", "campaign"], name="key_once_for_a_post"
            )
        ]


class NearKeys(models.Model):
    """The index keys by which an item is found that is nearly the same as a post (or as a duplicate of it).

    Their likeness is then found from the texts. The index takes new rows at once (no pending
    list): a list of thousands of rows not sorted in yet makes each look-up slow.
    """

    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="near_keys")
    item = models.ForeignKey("items.Item", on_delete=models.CASCADE, related_name="+")
    campaign = models.ForeignKey("campaigns.Campaign", on_delete=models.CASCADE, related_name="+")
    text_keys = ArrayField(models.BigIntegerField(), default=list)
    title_keys = ArrayField(models.BigIntegerField(), default=list)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "item", "campaign"], name="near_keys_once")]
        indexes = [
            GinIndex(fields=["text_keys"], name="near_by_text", fastupdate=False),
            GinIndex(fields=["title_keys"], name="near_by_title", fastupdate=False),
        ]


class AlsoAt(models.Model):
    """Another source that has the story of a post: shown under it."""

    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="also_at")
    item = models.ForeignKey("items.Item", on_delete=models.CASCADE, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "item"], name="also_at_once")]
