"""Comments of readers."""

from django.contrib.postgres.indexes import GinIndex, OpClass
from django.db import models
from django.db.models.functions import Upper

from glyptarch_server.comments.lifecycle import CommentState

__all__ = ["Comment"]


class Comment(models.Model):
    """A reader's comment on a post, as plain text, with the stated name."""

    post = models.ForeignKey("posts.Post", on_delete=models.CASCADE, related_name="readers_comments")
    # The post's blog, for the desk's list.
    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="+")
    state = models.CharField(max_length=10, choices=[(state.value, state.value) for state in CommentState])
    name = models.CharField(max_length=80)
    text = models.TextField(max_length=4000)
    made_at = models.DateTimeField()
    changed_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(state__in=[state.value for state in CommentState]), name="comment_state_is_known"
            )
        ]
        indexes = [
            models.Index(fields=["post", "state", "made_at"], name="comment_under_a_post"),
            models.Index(fields=["blog", "state", "-made_at", "-id"], name="comment_by_state"),
            models.Index(fields=["blog", "-made_at", "-id"], name="comment_by_date"),
            GinIndex(
                OpClass(Upper("text"), name="gin_trgm_ops"),
                OpClass(Upper("name"), name="gin_trgm_ops"),
                name="comment_search",
            ),
        ]
