"""Making campaigns and saving their rules."""

import zlib
from collections.abc import Sequence
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from django.db import IntegrityError, transaction
from glyptarch_core.campaign import MOST_SOURCES, CampaignDocument
from glyptarch_core.editions import BlogLanguage, languages_of
from glyptarch_core.schedule import Schedule, next_times
from glyptarch_core.text import slugify, unused

from glyptarch_server.accounts.models import User
from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.actions import remove_term_table, remove_word_list, set_defaults, set_time_zone
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import tables_by_key, term_table_of, word_list_of, words_by_key
from glyptarch_server.campaigns import queries
from glyptarch_server.campaigns.models import Campaign, Revision
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.services.actions import remove_service
from glyptarch_server.services.queries import service_of, services_by_key
from glyptarch_server.sources.queries import sources_by_key

__all__ = [
    "archive_campaign",
    "create_campaign",
    "drop_service",
    "drop_term_table",
    "drop_word_list",
    "move_to_time_zone",
    "plan_next",
    "rename_campaign",
    "save_revision",
    "set_blog_defaults",
    "set_paused",
    "set_schedule",
    "take_from_archive",
    "take_sources",
]


def _check_sources(blog: Blog, document: CampaignDocument) -> None:
    unknown = set(document.gather.sources) - set(sources_by_key(blog, document.gather.sources))
    if unknown:
        named = ", ".join(f"“{key}”" for key in sorted(unknown))
        raise Invalid(f"The rules name sources that this blog does not have: {named}. Add them, or take them out.")


def _check_lists(blog: Blog, document: CampaignDocument) -> None:
    for what, named_by_rules, existing in (
        ("word lists", document.uses_lists, words_by_key(blog.pk)),
        ("tables of terms", document.uses_tables, tables_by_key(blog.pk)),
        ("language services", document.uses_services, services_by_key(blog.pk) if document.uses_services else {}),
    ):
        unknown = set(named_by_rules) - set(existing)
        if unknown:
            named = ", ".join(f"“{key}”" for key in sorted(unknown))
            raise Invalid(f"The rules name {what} that this blog does not have: {named}. Make them, or take them out.")


def set_blog_defaults(blog: Blog, document: CampaignDocument | None) -> None:
    """Set the rules that a new campaign begins with, or go back to the product's own."""
    if document is not None:
        _check_lists(blog, document)
    with transaction.atomic():
        set_defaults(blog, document)
        record("defaults.set" if document else "defaults.cleared", blog.title, blog=blog.pk)


def drop_word_list(blog: Blog, key: str) -> None:
    """Remove a word list. Raises Conflict while rules name it."""
    row = word_list_of(blog, key)
    _refuse_if_used(row.name, queries.library_uses(blog).lists.get(key, ()))
    with transaction.atomic():
        record("library.word_list_removed", row.name, blog=blog.pk, before=row.words[:200])
        remove_word_list(row)


def drop_term_table(blog: Blog, key: str) -> None:
    """Remove a table of terms. Raises Conflict while rules or a language of the blog name it."""
    row = term_table_of(blog, key)
    _refuse_if_used(row.name, queries.library_uses(blog).tables.get(key, ()))
    _refuse_if_spoken(row.name, [one for one in _languages(blog) if key in (*one.glossary, one.names)])
    with transaction.atomic():
        record("library.term_table_removed", row.name, blog=blog.pk, before=row.rows[:200])
        remove_term_table(row)


def drop_service(blog: Blog, key: str, *, now: datetime) -> None:
    """Remove a language service. Raises Conflict while rules or a language of the blog name it."""
    row = service_of(blog, key)
    _refuse_if_used(row.name, queries.library_uses(blog).services.get(key, ()))
    _refuse_if_spoken(row.name, [one for one in _languages(blog) if key in one.services])
    remove_service(row, now=now)


def _refuse_if_used(name: str, using: Sequence[Campaign]) -> None:
    if using:
        named = ", ".join(campaign.name for campaign in using)
        raise Conflict(f"“{name}” is used by {named}. Take it out of their rules first.")


def _languages(blog: Blog) -> Sequence[BlogLanguage]:
    return languages_of(blog.languages).languages


def _refuse_if_spoken(name: str, languages: Sequence[BlogLanguage]) -> None:
    if languages:
        named = ", ".join(f"“{language.tag}”" for language in languages)
        raise Conflict(f"“{name}” makes the editions in {named}. Take it out of Settings, Languages first.")


# The screen for a new campaign uses this address.
_TAKEN_BY_SCREENS = frozenset({"new"})


def create_campaign(blog: Blog, name: str, document: CampaignDocument, *, by: User | None, now: datetime) -> Campaign:
    """Make a campaign with its first revision."""
    _check_sources(blog, document)
    _check_lists(blog, document)
    base = slugify(name) or "campaign"
    taken = queries.campaign_slugs(blog, base)
    slug = unused(base, {*taken, *_TAKEN_BY_SCREENS})
    try:
        with transaction.atomic():
            campaign = Campaign.objects.create(blog=blog, slug=slug, name=name.strip(), created_at=now)
            _add_revision(campaign, 1, document, by=by, note="", now=now)
            record("campaign.made", campaign.name, blog=blog.pk)
    except IntegrityError as error:
        raise Conflict("A campaign of this name has just been made by someone else.") from error
    return campaign


def _add_revision(
    campaign: Campaign, number: int, document: CampaignDocument, *, by: User | None, note: str, now: datetime
) -> Revision:
    campaign.characters_a_day = document.shape.characters_a_day
    campaign.save(update_fields=["characters_a_day"])
    return Revision.objects.create(
        campaign=campaign,
        number=number,
        document=document.model_dump(mode="json"),
        note=note,
        saved_by=by,
        saved_at=now,
    )


def save_revision(
    campaign: Campaign, document: CampaignDocument, *, base: int, by: User | None, note: str, now: datetime
) -> Revision:
    """Save rules as a new revision.

    ``base`` is the number of the revision the edit began from; when another has been saved
    meanwhile, nothing is written and Conflict says so.
    """
    _check_sources(campaign.blog, document)
    _check_lists(campaign.blog, document)
    with transaction.atomic():
        Campaign.objects.select_for_update().get(pk=campaign.pk)
        latest = queries.latest_revision(campaign)
        if latest.number != base:
            raise Conflict(_saved_meanwhile(latest, base))
        if latest.document == document.model_dump(mode="json"):
            return latest
        record("campaign.rules_saved", campaign.name, blog=campaign.blog_id, before=base, after=base + 1)
        return _add_revision(campaign, base + 1, document, by=by, note=note, now=now)


def take_sources(campaign: Campaign, keys: Sequence[str], *, by: User | None, now: datetime) -> int:
    """Add sources to what a campaign gathers, as a new revision on top of the latest.

    Return how many it did not have. Raises Invalid where they are too many.
    """
    latest = queries.latest_revision(campaign)
    document = queries.document_of(latest)
    new = [key for key in dict.fromkeys(keys) if key not in set(document.gather.sources)]
    if not new:
        return 0
    gathered = [*document.gather.sources, *new]
    if len(gathered) > MOST_SOURCES:
        raise Invalid(f"A campaign gathers at most {MOST_SOURCES:,} sources, and these would make {len(gathered):,}.")
    gather = document.gather.model_copy(update={"sources": tuple(gathered)})
    changed = document.model_copy(update={"gather": gather})
    save_revision(campaign, changed, base=latest.number, by=by, note=_taken_in(len(new)), now=now)
    return len(new)


def _taken_in(number: int) -> str:
    return "1 source added" if number == 1 else f"{number} sources added"


def _saved_meanwhile(latest: Revision, base: int) -> str:
    if base > latest.number:
        return f"There is no revision {base}: the latest is {latest.number}. Load it, and make your edits on top of it."
    who = f" by {latest.saved_by.get_short_name()}" if latest.saved_by else ""
    return f"Revision {latest.number} was saved meanwhile{who}. Load it, and make your edits on top of it."


def rename_campaign(campaign: Campaign, name: str) -> None:
    """Rename a campaign.

    Its address stays.
    """
    before, campaign.name = campaign.name, name.strip()
    with transaction.atomic():
        campaign.save(update_fields=["name"])
        record("campaign.renamed", campaign.name, blog=campaign.blog_id, before=before, after=campaign.name)


def archive_campaign(campaign: Campaign, *, now: datetime) -> None:
    """Archive a campaign: it leaves the list and no longer runs.

    Posts, decisions and revisions stay.
    """
    with transaction.atomic():
        row = _locked(campaign)
        row.removed_at, row.next_run_at = now, None
        row.save(update_fields=["removed_at", "next_run_at"])
        record("campaign.archived", row.name, blog=row.blog_id)


def take_from_archive(campaign: Campaign, *, now: datetime) -> None:
    """Restore an archived campaign with its schedule. Raises Conflict while it is being deleted."""
    with transaction.atomic():
        row = _locked(campaign)
        if row.delete_asked_at is not None:
            raise Conflict(f"“{row.name}” is being deleted.")
        row.removed_at = None
        row.save(update_fields=["removed_at"])
        plan_next(row, now=now)
        record("campaign.taken_from_archive", row.name, blog=row.blog_id)


# Seconds over which the runs of one minute are spread.
_SPREAD_OVER = 60


def plan_next(campaign: Campaign, *, now: datetime) -> None:
    """Set the next run of a campaign after ``now``.

    It is the next scheduled time and up to a minute more. Missed times are not repeated; a campaign that is due runs
    once.
    """
    campaign.next_run_at = None
    if not campaign.paused and campaign.removed_at is None:
        zone = ZoneInfo(campaign.blog.time_zone)
        for time in next_times(queries.schedule_of(campaign), zone, now, 1):
            late = zlib.crc32(f"{campaign.pk} {campaign.slug}".encode()) % _SPREAD_OVER
            campaign.next_run_at = time + timedelta(seconds=late)
    campaign.save(update_fields=["next_run_at"])


def set_schedule(
    campaign: Campaign, schedule: Schedule, *, paused: bool, begun: int | None = None, now: datetime
) -> Campaign:
    """Set the schedule of a campaign and whether it is paused.

    Return the updated campaign. Raises Conflict where somebody has changed it since.
    """
    with transaction.atomic():
        row = _locked(campaign)
        if begun is not None and begun != row.schedule_version:
            raise Conflict(f"Somebody else has changed the schedule of “{row.name}” since you began.")
        before = {"schedule": row.schedule, "paused": row.paused}
        row.schedule, row.paused = schedule.model_dump(mode="json"), paused
        row.schedule_version += 1
        row.save(update_fields=["schedule", "paused", "schedule_version"])
        plan_next(row, now=now)
        after = {"schedule": row.schedule, "paused": row.paused}
        record("campaign.schedule", row.name, blog=row.blog_id, before=before, after=after)
    return row


def set_paused(blog: Blog, slugs: Sequence[str], *, paused: bool, now: datetime) -> int:
    """Pause or resume campaigns of a blog, all of them without slugs.

    Return how many changed.
    """
    rows = Campaign.objects.filter(blog=blog, removed_at=None).exclude(paused=paused)
    if slugs:
        rows = rows.filter(slug__in=slugs)
    with transaction.atomic():
        campaigns = list(rows.select_for_update(of=("self",)).select_related("blog").order_by("pk"))
        for row in campaigns:
            row.paused = paused
            row.schedule_version += 1
            row.save(update_fields=["paused", "schedule_version"])
            plan_next(row, now=now)
            record("campaign.paused" if paused else "campaign.resumed", row.name, blog=blog.pk)
    return len(campaigns)


def move_to_time_zone(blog: Blog, name: str, *, now: datetime) -> None:
    """Set the time zone of a blog and keep its campaigns' times of day. Raises Invalid."""
    with transaction.atomic():
        before = blog.time_zone
        set_time_zone(blog, name)
        record("blog.time_zone", blog.title, blog=blog.pk, before=before, after=name)
        rows = Campaign.objects.filter(blog=blog, next_run_at__isnull=False).order_by("pk")
        for row in rows.select_for_update(of=("self",)).select_related("blog"):
            plan_next(row, now=now)


def _locked(campaign: Campaign) -> Campaign:
    return Campaign.objects.select_for_update(of=("self",)).select_related("blog").get(pk=campaign.pk)
