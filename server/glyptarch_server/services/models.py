"""Language services of a blog, what they are asked, and what they have answered."""

import uuid

from django.db import models

from glyptarch_server.common.versions import Versioned

__all__ = ["Service", "ServiceUse", "TextRequest", "TextRow"]


class Service(Versioned):
    """A language service with its key.

    ``document`` is its description (``editions/described.py``), ``sealed`` its encrypted key, never returned. ``state``
    is what its last answer said. ``most_a_day`` limits the characters that are sent on a day (UTC). ``price`` is what
    a million characters cost, in the service's own currency.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="services")
    key = models.CharField(max_length=60)
    name = models.CharField(max_length=100)
    document = models.JSONField()
    sealed = models.TextField(blank=True)
    most_a_day = models.PositiveIntegerField(null=True)
    price = models.DecimalField(max_digits=12, decimal_places=4, null=True)
    currency = models.CharField(max_length=3, blank=True)
    state = models.CharField(max_length=12, default="unchecked")
    detail = models.CharField(max_length=500, blank=True)
    checked_at = models.DateTimeField(null=True)
    # It is used up, or asked for a pause, until then.
    waits_until = models.DateTimeField(null=True)
    made_at = models.DateTimeField()
    removed_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "key"], name="service_key_once")]


class TextRequest(models.Model):
    """A request to a service that is under way, with the texts that it asks about.

    It is on record before it is sent. After a crash the same request is sent again with the same ``number`` as its
    ``Idempotency-Key``, so that a service that knows this header counts it once. ``job`` is what a service named that
    answers later.
    """

    number = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    service = models.ForeignKey(Service, on_delete=models.CASCADE, related_name="requests")
    job = models.CharField(max_length=200, blank=True)
    tries = models.PositiveSmallIntegerField(default=0)
    made_at = models.DateTimeField()


class TextRow(models.Model):
    """A block of text that is asked about, or has its answer.

    ``ask`` is the question in the core's form. ``place`` is its place in the chain of services, ``tries`` how often the
    present one gave an answer that cannot be used. An answered row has its ``text``, or the ``fault`` for which the
    text stays as it was.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="texts")
    key = models.CharField(max_length=64)
    campaign = models.ForeignKey("campaigns.Campaign", on_delete=models.SET_NULL, null=True, related_name="texts")
    ask = models.JSONField()
    # The key of the source whose item asked first. A chat model gets texts of one source at a time, so that what one
    # source writes to a model is answered among its own texts.
    origin = models.CharField(max_length=60, blank=True)
    characters = models.PositiveIntegerField()
    place = models.PositiveSmallIntegerField(default=0)
    tries = models.PositiveSmallIntegerField(default=0)
    request = models.ForeignKey(TextRequest, on_delete=models.SET_NULL, null=True, related_name="texts")
    text = models.TextField(blank=True)
    fault = models.CharField(max_length=40, blank=True)
    by = models.CharField(max_length=60, blank=True)
    asked_at = models.DateTimeField()
    answered_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["blog", "key"], name="text_once_in_a_blog")]
        indexes = [
            models.Index(fields=["blog", "id"], condition=~models.Q(fault=""), name="text_with_fault"),
            models.Index(fields=["blog", "id"], condition=models.Q(answered_at=None), name="text_unanswered"),
            models.Index(
                fields=["blog", "-answered_at", "-id"],
                condition=models.Q(answered_at__isnull=False),
                name="text_by_answer",
            ),
        ]


class ServiceUse(models.Model):
    """What was sent to a service on a day (UTC) for a campaign.

    ``charged`` is what the service itself counted, in its own unit.
    """

    service = models.ForeignKey(Service, on_delete=models.CASCADE, related_name="uses")
    day = models.DateField()
    campaign = models.ForeignKey("campaigns.Campaign", on_delete=models.CASCADE, null=True, related_name="+")
    requests = models.PositiveIntegerField(default=0)
    texts = models.PositiveIntegerField(default=0)
    characters = models.PositiveBigIntegerField(default=0)
    charged = models.PositiveBigIntegerField(default=0)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["service", "day", "campaign"], nulls_distinct=False, name="service_use_once_a_day"
            )
        ]
