"""Reads about campaigns."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from django.db.models import OuterRef, QuerySet, Subquery
from glyptarch_core.campaign import CampaignDocument, load_document
from glyptarch_core.schedule import Schedule

from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.common.problems import NotFound
from glyptarch_server.sources.models import Source
from glyptarch_server.sources.queries import sources_by_key

__all__ = [
    "LibraryUses",
    "any_campaign_of",
    "archived_campaigns",
    "by_schedule",
    "campaign_of",
    "campaign_slugs",
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
    """Give the campaigns of a blog by name, each with its latest ``number`` and ``document``.

    ``mode`` leaves those alone whose posts go out so (:class:`ReleaseMode`).
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
    """Give one campaign. Raises NotFound."""
    campaign = _active(blog).filter(slug=slug).first()
    if campaign is None:
        raise NotFound(f"This blog has no campaign named “{slug}”.")
    return campaign


def archived_campaigns(blog: Blog) -> Sequence[Campaign]:
    """Give the archived campaigns of a blog, the one archived last first; the first 500."""
    rows = Campaign.objects.filter(blog=blog, removed_at__isnull=False, delete_asked_at=None)
    return list(rows.order_by("-removed_at", "pk")[:500])


def any_campaign_of(blog: Blog, slug: str) -> Campaign:
    """Give one campaign, an archived one as well. Raises NotFound."""
    campaign = Campaign.objects.filter(blog=blog, slug=slug, delete_asked_at=None).first()
    if campaign is None:
        raise NotFound(f"This blog has no campaign named “{slug}”.")
    return campaign


def schedule_of(campaign: Campaign) -> Schedule:
    """Give when a campaign runs by itself."""
    return Schedule.model_validate(campaign.schedule)


def by_schedule(rows: QuerySet[Campaign], state: str) -> QuerySet[Campaign]:
    """Keep the campaigns that are ``scheduled``, ``paused``, or run by ``hand``; all where no state is named."""
    match state:
        case "scheduled":
            return rows.filter(next_run_at__isnull=False)
        case "paused":
            return rows.filter(paused=True)
        case "hand":
            return rows.filter(next_run_at=None, paused=False)
    return rows


def due_campaigns(now: datetime) -> QuerySet[Campaign]:
    """Give the campaigns whose time has come, the one that has waited longest first."""
    rows = Campaign.objects.filter(next_run_at__lte=now, blog__removed_at=None)
    return rows.order_by("next_run_at", "pk")


def campaign_slugs(blog: Blog, base: str) -> set[str]:
    """Give the slugs that begin so, those of removed campaigns as well."""
    return set(Campaign.objects.filter(blog=blog, slug__startswith=base).values_list("slug", flat=True))


def latest_revision(campaign: Campaign) -> Revision:
    """Give the rules as they stand."""
    return campaign.revisions.order_by("-number").select_related("saved_by")[:1].get()


def revision_of(campaign: Campaign, number: int) -> Revision:
    """Give one revision. Raises NotFound."""
    revision = campaign.revisions.filter(number=number).first()
    if revision is None:
        raise NotFound(f"“{campaign.name}” has no revision {number}.")
    return revision


def revisions_of(campaign: Campaign) -> QuerySet[Revision]:
    """Give the revisions, newest first, without their documents."""
    return campaign.revisions.order_by("-number").select_related("saved_by").defer("document")


def document_of(revision: Revision) -> CampaignDocument:
    """Give a revision's rules as a document."""
    return load_document(revision.document)


def defaults_of(blog: Blog) -> CampaignDocument:
    """Give the rules that a new campaign of a blog begins with."""
    return CampaignDocument() if blog.defaults is None else load_document(blog.defaults)


def sources_for(blog: Blog, document: CampaignDocument) -> Sequence[Source]:
    """Give the sources a document names that exist, in its order."""
    known = sources_by_key(blog, document.gather.sources)
    return [known[key] for key in document.gather.sources if key in known]


def campaigns_using(blog: Blog) -> dict[str, list[Campaign]]:
    """Give for each source key the campaigns whose latest rules name it, by name."""
    latest = Revision.objects.filter(campaign=OuterRef("pk")).order_by("-number")
    rows = _active(blog).annotate(keys=Subquery(latest.values("document__gather__sources")[:1])).order_by("name")
    using: dict[str, list[Campaign]] = {}
    for campaign in rows[:1000]:
        for key in campaign.keys or ():
            using.setdefault(key, []).append(campaign)
    return using


@dataclass(frozen=True, slots=True)
class LibraryUses:
    """The campaigns whose latest rules take terms from each word list and each table, by its key; by name."""

    lists: Mapping[str, Sequence[Campaign]]
    tables: Mapping[str, Sequence[Campaign]]


def library_uses(blog: Blog) -> LibraryUses:
    """Find out which campaigns use which word lists and tables of terms."""
    lists: dict[str, list[Campaign]] = defaultdict(list)
    tables: dict[str, list[Campaign]] = defaultdict(list)
    for campaign in listed_campaigns(blog)[:1000]:
        document = load_document(campaign.document)  # type: ignore[attr-defined]
        for key in document.uses_lists:
            lists[key].append(campaign)
        for key in document.uses_tables:
            tables[key].append(campaign)
    return LibraryUses(lists, tables)
