"""The editions of posts: which are wanted, which are made, and of what."""

from django.db import models

from glyptarch_server.editions.lifecycle import EditionState

__all__ = ["Edition"]


class Edition(models.Model):
    """An edition of a post in another language of its blog.

    ``mode`` says whether it goes out with its ``original``, or is held. With ``together`` the original waits for it.
    ``version`` is that of the original of which it was made, ``digests`` name the blocks of that text, ``faults`` those
    that no service could say: pairs of a code and a text.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="editions")
    original = models.ForeignKey("posts.Post", on_delete=models.CASCADE, related_name="wanted_editions")
    language = models.CharField(max_length=35)
    post = models.OneToOneField("posts.Post", on_delete=models.CASCADE, null=True, related_name="edition")
    mode = models.CharField(max_length=10)
    together = models.BooleanField(default=False)
    state = models.CharField(max_length=10, default=EditionState.WANTED.value)
    version = models.PositiveIntegerField(default=0)
    digests = models.JSONField(default=list)
    faults = models.JSONField(default=list)
    asked_at = models.DateTimeField()
    made_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["original", "language"], name="edition_once"),
            models.CheckConstraint(
                condition=models.Q(state__in=[state.value for state in EditionState]), name="edition_state_is_known"
            ),
        ]
        indexes = [
            models.Index(
                fields=["blog", "id"], condition=~models.Q(state=EditionState.MADE.value), name="edition_to_make"
            ),
            models.Index(fields=["blog", "state"], name="edition_by_state"),
        ]
