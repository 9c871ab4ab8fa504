"""Reads about campaigns."""

from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from django.db.models import OuterRef, QuerySet, Subquery
from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.schedule import Schedule

from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.common.problems import NotFound
from glyptarch_server.sources.models import Source
from glyptarch_server.sources.queries import sources_by_key, sources_labelled

__all__ = [
    "LibraryUses",
    "any_campaign_of",
    "archived_campaigns",
    "by_schedule",
    "campaign_of",
    "campaign_slugs",
    "campaigns_only_on",
    "campaigns_using",
    "defaults_of",
    "document_of",
    "due_campaigns",
    "latest_revision",
    "library_uses",
    "listed_campaigns",
    "revision_of",
    "revisions_of",
    "schedule_of",
    "sources_for",
]


def _active(blog: Blog) -> QuerySet[Campaign]:
    return Campaign.objects.filter(blog=blog, removed_at__isnull=True)


def listed_campaigns(blog: Blog, *, search: str = "", mode: str = "") -> QuerySet[Campaign]:
    """Return the campaigns of a blog by name, each with its latest ``number`` and ``document``.

    ``mode`` filters by release mode (:class:`ReleaseMode`).
    """
    latest = Revision.objects.filter(campaign=OuterRef("pk")).order_by("-number")
    rows = _active(blog).annotate(
        number=Subquery(latest.values("number")[:1]), document=Subquery(latest.values("document")[:1])
    )
    if search:
        rows = rows.filter(name__icontains=search)
    if mode:
        rows = rows.annotate(mode=Subquery(latest.values("document__release__mode")[:1])).filter(mode=mode)
    return rows.order_by("name", "pk")


def campaign_of(blog: Blog, slug: str) -> Campaign:
    """Return one campaign. Raises NotFound."""
    campaign = _active(blog).filter(slug=slug).first()
    if campaign is None:
        raise NotFound(f"This blog has no campaign named “{slug}”.")
    return campaign


def archived_campaigns(blog: Blog) -> Sequence[Campaign]:
    """Return the first 500 archived campaigns of a blog, latest archived first."""
    rows = Campaign.objects.filter(blog=blog, removed_at__isnull=False, delete_asked_at=None)
    return list(rows.order_by("-removed_at", "pk")[:500])


def any_campaign_of(blog: Blog, slug: str) -> Campaign:
    """Return one campaign, archived or not. Raises NotFound."""
    campaign = Campaign.objects.filter(blog=blog, slug=slug, delete_asked_at=None).first()
    if campaign is None:
        raise NotFound(f"This blog has no campaign named “{slug}”.")
    return campaign


def schedule_of(campaign: Campaign) -> Schedule:
    """Return the schedule of a campaign."""
    return Schedule.model_validate(campaign.schedule)


def by_schedule(rows: QuerySet[Campaign], state: str) -> QuerySet[Campaign]:
    """Filter campaigns by ``scheduled``, ``paused`` or run by ``hand``.

    No filter without a state.
    """
    match state:
        case "scheduled":
            return rows.filter(next_run_at__isnull=False)
        case "paused":
            return rows.filter(paused=True)
        case "hand":
            return rows.filter(next_run_at=None, paused=False)
    return rows


def due_campaigns(now: datetime) -> QuerySet[Campaign]:
    """Return the campaigns that are due, longest waiting first."""
    rows = Campaign.objects.filter(next_run_at__lte=now, blog__removed_at=None)
    return rows.order_by("next_run_at", "pk")


def campaign_slugs(blog: Blog, base: str) -> set[str]:
    """Return the slugs with a prefix, those of removed campaigns included."""
    return set(Campaign.objects.filter(blog=blog, slug__startswith=base).values_list("slug", flat=True))


def latest_revision(campaign: Campaign) -> Revision:
    """Return the latest revision of a campaign."""
    return campaign.revisions.order_by("-number").select_related("saved_by")[:1].get()


def revision_of(campaign: Campaign, number: int) -> Revision:
    """Return one revision. Raises NotFound."""
    revision = campaign.revisions.filter(number=number).first()
    if revision is None:
        raise NotFound(f"“{campaign.name}” has no revision {number}.")
    return revision


def revisions_of(campaign: Campaign) -> QuerySet[Revision]:
    """Return the revisions without their documents, newest first."""
    return campaign.revisions.order_by("-number").select_related("saved_by").defer("document")


def document_of(revision: Revision) -> CampaignDocument:
    """Return a revision's rules as a document."""
    return load_document(revision.document)


def defaults_of(blog: Blog) -> CampaignDocument:
    """Return the rules of a blog's new campaigns."""
    return CampaignDocument() if blog.defaults is None else load_document(blog.defaults)


def sources_for(blog: Blog, document: CampaignDocument) -> Sequence[Source]:
    """Return the existing sources of a document: the named ones in order, then those of labels."""
    named = sources_by_key(blog, document.gather.sources) if document.gather.sources else {}
    labelled = sources_labelled(blog, document.gather.labels) if document.gather.labels else []
    rows = [named[key] for key in document.gather.sources if key in named]
    return [*rows, *(source for source in labelled if source.key not in named)]


def campaigns_using(blog: Blog, sources: Collection[Source]) -> dict[str, list[Campaign]]:
    """Return for the keys of sources the campaigns whose latest rules use them, by name."""
    latest = Revision.objects.filter(campaign=OuterRef("pk")).order_by("-number")
    rows = _active(blog).annotate(
        named=Subquery(latest.values("document__gather__sources")[:1]),
        labelled=Subquery(latest.values("document__gather__labels")[:1]),
    )
    using: dict[str, list[Campaign]] = {}
    for campaign in rows.order_by("name")[:1000]:
        named, labelled = set(campaign.named or ()), set(campaign.labelled or ())
        for source in sources:
            if source.key in named or not labelled.isdisjoint(source.labels):
                using.setdefault(source.key, []).append(campaign)
    return using


def campaigns_only_on(blog: Blog, keys: Collection[str]) -> list[Campaign]:
    """Return the campaigns at work that have sources, all of which are among these."""
    only: list[Campaign] = []
    for campaign in listed_campaigns(blog).filter(paused=False)[:1000]:
        gather = campaign.document["gather"]  # type: ignore[attr-defined]
        named, labels = set(gather["sources"]), gather.get("labels", [])
        if not named <= set(keys) or not (named or labels):
            continue
        if all(source.key in keys for source in (sources_labelled(blog, labels) if labels else [])):
            only.append(campaign)
    return only


@dataclass(frozen=True, slots=True)
class LibraryUses:
    """The campaigns whose latest rules use each word list, table and language service, by key."""

    lists: Mapping[str, Sequence[Campaign]]
    tables: Mapping[str, Sequence[Campaign]]
    services: Mapping[str, Sequence[Campaign]]


def library_uses(blog: Blog) -> LibraryUses:
    """Find out which campaigns use which word lists, tables of terms and language services."""
    lists: dict[str, list[Campaign]] = defaultdict(list)
    tables: dict[str, list[Campaign]] = defaultdict(list)
    services: dict[str, list[Campaign]] = defaultdict(list)
    for campaign in listed_campaigns(blog)[:1000]:
        document = load_document(campaign.document)  # type: ignore[attr-defined]
        for key in document.uses_lists:
            lists[key].append(campaign)
        for key in document.uses_tables:
            tables[key].append(campaign)
        for key in document.uses_services:
            services[key].append(campaign)
    return LibraryUses(lists, tables, services)
