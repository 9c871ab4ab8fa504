"""Posts, and the keys by which their stories are recognised."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex, OpClass
from django.contrib.postgres.search import SearchVector, SearchVectorField
from django.db import models
from django.db.models.functions import Left, Lower, Upper
from glyptarch_core.draft import Visibility

from glyptarch_server.posts.lifecycle import ChangeState, PostState

__all__ = [
    "ON_THE_BLOG",
    "PAGE_KIND",
    "STANDS",
    "AlsoAt",
    "Change",
    "Correction",
    "FormerAddress",
    "KeptView",
    "NearKeys",
    "Post",
    "PostChange",
    "PostKey",
    "PostReads",
    "Takedown",
]


PAGE_KIND = "page"
"""The kind of posts that stand for themselves: they are in no list and no feed."""

ON_THE_BLOG = models.Q(state=PostState.PUBLISHED.value) & ~models.Q(kind=PAGE_KIND)
"""What the lists of a blog show, to its people; others see no private posts."""

STANDS = ~models.Q(state=PostState.BINNED.value, marker=False)
"""What counts as there: all but what was binned without a marker."""


class Post(models.Model):
    """A post made by the rules or written by a person.

    At most one per campaign and item. A post written by hand has no campaign, revision, item or source. An edition of
    another post, in another language, is one of ``edition_of``, and has the source of it alone; one that
    ``goes_along`` goes out when its original does. ``category`` is the main one of ``categories``. ``fields`` are
    custom fields in the core's form. ``out_at`` is the time of publication, which may differ from its date.
    ``version`` counts the changes; ``edited`` names the values changed by people, which rules no longer change. A
    binned post without ``marker`` does not bar its item from returning.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="posts")
    campaign = models.ForeignKey("campaigns.Campaign", on_delete=models.PROTECT, null=True, related_name="posts")
    revision = models.ForeignKey("campaigns.Revision", on_delete=models.PROTECT, null=True, related_name="posts")
    item = models.ForeignKey("items.Item", on_delete=models.PROTECT, null=True, related_name="posts")
    edition_of = models.ForeignKey("self", on_delete=models.CASCADE, null=True, related_name="editions")
    goes_along = models.BooleanField(default=False, db_default=False)
    # The item's source, for filters.
    source = models.ForeignKey("sources.Source", on_delete=models.PROTECT, null=True, related_name="posts")
    state = models.CharField(max_length=10, choices=[(state.value, state.value) for state in PostState])
    title = models.CharField(max_length=300)
    slug = models.CharField(max_length=100)
    body = models.TextField()
    excerpt = models.TextField(blank=True)
    lead_url = models.CharField(max_length=4000, blank=True)
    lead_alt = models.CharField(max_length=300, blank=True)
    # Pictures in place of a lead that cannot be fetched, in order: {"url", "alt"}.
    spare_leads = models.JSONField(default=list)
    # Whether only copies of pictures are shown, and the largest size of films and sound to copy (0: none).
    copies_pictures = models.BooleanField(default=False)
    copies_recordings_mb = models.PositiveIntegerField(default=0)
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
    # All comments of readers, in any state.
    comment_count = models.PositiveIntegerField(default=0)
    pinned = models.BooleanField(default=False)
    visibility = models.CharField(max_length=10, default=Visibility.PUBLIC.value)
    pass_phrase = models.CharField(max_length=80, blank=True)
    canonical = models.CharField(max_length=4000, blank=True)
    version = models.PositiveIntegerField(default=1)
    edited = ArrayField(models.CharField(max_length=20), default=list, blank=True)
    marker = models.BooleanField(default=True)
    words = models.PositiveIntegerField(default=0)
    date = models.DateTimeField()
    out_at = models.DateTimeField(null=True)
    created_at = models.DateTimeField()
    changed_at = models.DateTimeField()
    binned_at = models.DateTimeField(null=True)
    # The search vector, of a long text its beginning.
    found_by = models.GeneratedField(
        expression=SearchVector("title", weight="A", config="simple")
        + SearchVector("excerpt", weight="B", config="simple")
        + SearchVector(Left("body", 200_000), weight="C", config="simple"),
        output_field=SearchVectorField(),
        db_persist=True,
    )
    # Whether its page is silent about goods that cannot be bought any more (``Goods.KEEP`` in core).
    quiet_goods = models.BooleanField(default=False, db_default=False)
    # The keys of the products that its text shows (``products_in`` of migration 0014).
    products = models.GeneratedField(
        expression=models.Func("body", function="products_in"),
        output_field=ArrayField(models.CharField(max_length=400)),
        db_persist=True,
    )
    # The only one of them, where the post is about one product; else empty (``product_in`` of migration 0017).
    product = models.GeneratedField(
        expression=models.Func("body", function="product_in"),
        output_field=models.CharField(max_length=400),
        db_persist=True,
    )

    # Its language without region and script, to list the posts of a language by.
    base_language = models.GeneratedField(
        expression=Lower(models.Func("language", models.Value("-"), models.Value(1), function="split_part")),
        output_field=models.CharField(max_length=35),
        db_persist=True,
    )

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["campaign", "item"], condition=STANDS, name="one_post_of_an_item"),
            models.UniqueConstraint(fields=["blog", "slug"], condition=STANDS, name="post_slug_once"),
            models.CheckConstraint(
                condition=models.Q(campaign=None, revision=None, item=None)
                & (models.Q(source=None) | models.Q(edition_of__isnull=False))
                | models.Q(campaign__isnull=False, revision__isnull=False, item__isnull=False, source__isnull=False),
                name="a_post_has_its_whole_origin_or_none",
            ),
            models.CheckConstraint(
                condition=models.Q(edition_of=None) | models.Q(item=None), name="an_edition_has_the_origin_of_its_post"
            ),
            models.CheckConstraint(
                condition=models.Q(state__in=[state.value for state in PostState]), name="post_state_is_known"
            ),
            models.CheckConstraint(
                condition=models.Q(visibility__in=[visibility.value for visibility in Visibility]),
                name="post_visibility_is_known",
            ),
            models.CheckConstraint(
                condition=~models.Q(visibility=Visibility.PHRASE.value) | ~models.Q(pass_phrase=""),
                name="a_pass_phrase_where_one_is_asked_for",
            ),
        ]
        indexes = [
            models.Index(fields=["blog", "state", "-date", "-id"], name="post_by_state"),
            models.Index(fields=["blog", "-date", "-id"], include=["state"], name="post_by_date"),
            models.Index(fields=["blog", "state"], include=["campaign", "source", "category"], name="post_by_names"),
            models.Index(fields=["blog", "title", "id"], include=["state"], name="post_by_title"),
            models.Index(fields=["blog", "-pinned", "-date", "-id"], condition=ON_THE_BLOG, name="post_on_the_blog"),
            models.Index(
                fields=["blog", "-pinned", "-date", "-id"],
                condition=ON_THE_BLOG & ~models.Q(visibility=Visibility.PRIVATE.value),
                name="post_for_everybody",
            ),
            models.Index(
                fields=["blog", "kind", "-pinned", "-date", "-id"], condition=ON_THE_BLOG, name="post_by_kind"
            ),
            models.Index(
                fields=["blog", "base_language", "-pinned", "-date", "-id"],
                condition=ON_THE_BLOG,
                name="post_by_language",
            ),
            models.Index(fields=["category", "-date", "-id"], name="post_by_category"),
            models.Index(fields=["campaign", "-date", "-id"], name="post_by_campaign"),
            models.Index(fields=["campaign", "state"], name="post_by_campaign_and_state"),
            models.Index(fields=["campaign", "created_at"], name="post_by_making"),
            models.Index(fields=["source", "-date", "-id"], name="post_by_source"),
            GinIndex(OpClass(Upper("title"), name="gin_trgm_ops"), name="post_search"),
            GinIndex(fields=["found_by"], name="post_by_words", fastupdate=False),
            GinIndex(fields=["products"], name="post_by_product", fastupdate=False),
            models.Index(
                fields=["blog", "product", "-date", "-id"],
                condition=~models.Q(product=""),
                name="post_about_product",
            ),
            models.Index(fields=["blog", "words", "id"], include=["state"], name="post_by_length"),
            models.Index(fields=["blog", "comment_count", "id"], include=["state"], name="post_by_comments"),
            models.Index(fields=["blog", "slug"], name="post_by_slug"),
            models.Index(fields=["blog", "-date", "-id"], condition=~models.Q(edited=[]), name="post_edited"),
            models.Index(fields=["binned_at"], condition=models.Q(state="binned"), name="post_by_binning"),
            models.Index(fields=["-changed_at"], name="post_by_change"),
            models.Index(fields=["campaign", "-out_at"], name="post_by_going_out"),
            models.Index(
                fields=["blog", "-out_at"], condition=models.Q(state="published"), name="post_out_on_the_blog"
            ),
            models.Index(fields=["date"], condition=models.Q(state="scheduled"), name="post_by_time_to_go_out"),
            models.Index(fields=["blog", "-date"], condition=models.Q(pinned=True), name="post_pinned"),
        ]


class PostKey(models.Model):
    """A trait of a post, or of a duplicate of it, with which later items are compared.

    ``item`` has the trait, ``campaign`` decided it. ``value_hash`` is the SHA-256 of the key's value, whatever its
    length.
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
    """The index keys for finding items nearly the same as a post or its duplicate.

    The likeness is then computed from the texts. The index takes new rows immediately, without a pending list, because
    a list of thousands of unsorted rows slows every lookup down.
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


class Change(models.Model):
    """A change of one post or many by a person, which can be taken back.

    ``posts`` are the numbers of its posts, ``done`` how many were processed, ``changed`` how many changed; posts that
    cannot be changed stay as they are. ``takes_back`` is the change that this one undoes.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="changes")
    action = models.CharField(max_length=20)
    # The values of the action: {"to": "held"}, {"category": "Sky"}.
    what = models.JSONField(default=dict)
    # The title of the only post, or the name of a campaign.
    subject = models.CharField(max_length=300, blank=True)
    state = models.CharField(max_length=10, choices=[(state.value, state.value) for state in ChangeState])
    posts = ArrayField(models.BigIntegerField(), default=list)
    done = models.PositiveIntegerField(default=0)
    changed = models.PositiveIntegerField(default=0)
    # None for a small one, which is carried out with the request.
    task = models.ForeignKey("tasks.Task", on_delete=models.SET_NULL, null=True, related_name="+")
    takes_back = models.OneToOneField("self", on_delete=models.CASCADE, null=True, related_name="taken_back_by")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    name = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(state__in=[state.value for state in ChangeState]), name="change_state_is_known"
            )
        ]
        indexes = [
            models.Index(fields=["blog", "-at", "-id"], name="change_by_blog"),
            models.Index(fields=["at"], condition=models.Q(ended_at=None), name="change_under_way"),
        ]


class PostChange(models.Model):
    """The effect of a change on one post: the changed values, before and after.

    ``version`` is that of the post after the change.
    """

    change = models.ForeignKey(Change, on_delete=models.CASCADE, related_name="of_posts")
    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="changes")
    version = models.PositiveIntegerField()
    before = models.JSONField()
    after = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "version"], name="post_version_once")]
        indexes = [models.Index(fields=["change", "post"], name="post_change_by_change")]

    @property
    def is_forgotten(self) -> bool:
        """Whether the values were thinned, so that only person, kind and time are known."""
        return not self.before and not self.after


class FormerAddress(models.Model):
    """A former address of a post, which redirects to it.

    Without a post it answers 410.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="+")
    slug = models.CharField(max_length=100)
    post = models.ForeignKey(Post, on_delete=models.SET_NULL, null=True, related_name="former_addresses")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "slug"], name="former_address_once")]


class KeptView(models.Model):
    """A filter of the list of posts that a person has named: its query as the address writes it."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=80)
    query = models.CharField(max_length=1000)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "name"], name="view_name_once")]


class Correction(models.Model):
    """What a source has corrected since a published post was made.

    It stands until a person takes it over or leaves it. ``values`` are those that the post would have. With ``refused``
    its rules would refuse the item now.
    """

    post = models.OneToOneField(Post, on_delete=models.CASCADE, primary_key=True, related_name="correction")
    at = models.DateTimeField()
    values = models.JSONField(default=dict)
    refused = models.BooleanField(default=False)


class Takedown(models.Model):
    """A withdrawal on request: a source with all its posts, or one link.

    ``withdrawn`` has title and address of each post, for the record after they are gone. ``lifted_at`` is when the
    withdrawal ended.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="takedowns")
    source = models.ForeignKey("sources.Source", on_delete=models.SET_NULL, null=True, related_name="+")
    link_key = models.CharField(max_length=4000, blank=True)
    subject = models.CharField(max_length=300)
    asked_by = models.CharField(max_length=300)
    reason = models.CharField(max_length=2000, blank=True)
    withdrawn = models.JSONField(default=list)
    change = models.ForeignKey(Change, on_delete=models.SET_NULL, null=True, related_name="+")
    name = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField()
    lifted_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["blog", "-at", "-id"], name="takedown_by_blog")]


class PostReads(models.Model):
    """How often a post was read on one day (UTC)."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="+", db_index=False)
    post = models.ForeignKey("posts.Post", on_delete=models.CASCADE, related_name="+", db_index=False)
    day = models.DateField()
    reads = models.PositiveIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "day"], name="reads_of_a_day")]
        indexes = [
            models.Index(fields=["blog", "day"], name="reads_of_a_blog"),
            models.Index(fields=["day"], name="reads_by_age"),
        ]
