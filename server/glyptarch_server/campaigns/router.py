"""The API of campaigns and their revisions."""

from typing import TYPE_CHECKING, Annotated, Any
from zoneinfo import available_timezones

from django.http import HttpRequest
from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.schedule import next_times
from glyptarch_core.shape import LAYOUTS, VARIABLES
from ninja import Query, Router

from glyptarch_server import wiring
from glyptarch_server.accounts.queries import person_of
from glyptarch_server.blogs.queries import Role, blog_for, zone_named
from glyptarch_server.campaigns import actions, queries
from glyptarch_server.campaigns.schemas import (
    ArchivedOut,
    ArchiveIn,
    CampaignOut,
    CreateCampaignIn,
    LayoutOut,
    LibraryUsesOut,
    PausedOut,
    PauseIn,
    RenameIn,
    RevisionOut,
    RevisionPageOut,
    SaveIn,
    ScheduleIn,
    TakenOut,
    TakeSourcesIn,
    TimesIn,
    TimesOut,
    TimeZoneIn,
    UserOut,
    YamlIn,
    YamlOut,
)
from glyptarch_server.campaigns.yaml_form import from_yaml, to_yaml
from glyptarch_server.common.paging import PAGE, Limit, Offset, page_of
from glyptarch_server.sources.queries import sources_by_key

if TYPE_CHECKING:
    from glyptarch_server.campaigns.models import Campaign, Revision

__all__ = ["router"]

router = Router(tags=["campaigns"])


def _by(revision: "Revision") -> str:
    return revision.saved_by.get_short_name() or revision.saved_by.username if revision.saved_by else ""


def _campaign(campaign: "Campaign") -> CampaignOut:
    revision = queries.latest_revision(campaign)
    return CampaignOut(
        slug=campaign.slug,
        name=campaign.name,
        revision=revision.number,
        saved_at=revision.saved_at,
        saved_by=_by(revision),
        document=queries.document_of(revision),
        schedule=queries.schedule_of(campaign),
        schedule_version=campaign.schedule_version,
        paused=campaign.paused,
        next_run_at=campaign.next_run_at,
        time_zone=campaign.blog.time_zone,
    )


@router.get("/campaign-schema", response=dict[str, Any], operation_id="getCampaignSchema")
def get_campaign_schema(request: HttpRequest) -> dict[str, Any]:
    """Return the JSON Schema of campaign documents."""
    del request
    return CampaignDocument.model_json_schema()


@router.get(
    "/blogs/{blog}/campaigns-by-source", response=dict[str, list[UserOut]], operation_id="listCampaignsBySource"
)
def list_campaigns_by_source(
    request: HttpRequest, blog: str, sources: Annotated[str, Query(max_length=8000)]
) -> dict[str, list[UserOut]]:
    """Return for each of these sources (comma-separated keys) the campaigns that use it."""
    owned = blog_for(request.user, blog)
    using = queries.campaigns_using(owned, sources_by_key(owned, sources.split(",")).values())
    return {key: [UserOut.from_orm(campaign) for campaign in named] for key, named in using.items()}


@router.post("/blogs/{blog}/campaigns", response=CampaignOut, operation_id="createCampaign")
def create_campaign(request: HttpRequest, blog: str, payload: CreateCampaignIn) -> CampaignOut:
    """Make a campaign."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    now = wiring.clock()()
    return _campaign(actions.create_campaign(owned, payload.name, payload.document, by=person_of(request), now=now))


@router.get("/blogs/{blog}/campaigns/{slug}", response=CampaignOut, operation_id="getCampaign")
def get_campaign(request: HttpRequest, blog: str, slug: str) -> CampaignOut:
    """Return a campaign with its latest rules."""
    return _campaign(queries.campaign_of(blog_for(request.user, blog), slug))


@router.patch("/blogs/{blog}/campaigns/{slug}", response=CampaignOut, operation_id="renameCampaign")
def rename_campaign(request: HttpRequest, blog: str, slug: str, payload: RenameIn) -> CampaignOut:
    """Rename a campaign."""
    campaign = queries.campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    actions.rename_campaign(campaign, payload.name)
    return _campaign(campaign)


@router.get("/blogs/{blog}/archived-campaigns", response=list[ArchivedOut], operation_id="listArchivedCampaigns")
def list_archived(request: HttpRequest, blog: str) -> list[ArchivedOut]:
    """Return the archived campaigns, latest archived first."""
    rows = queries.archived_campaigns(blog_for(request.user, blog))
    return [ArchivedOut(slug=row.slug, name=row.name, archived_at=row.removed_at) for row in rows if row.removed_at]


@router.put("/blogs/{blog}/campaigns/{slug}/archived", response={204: None}, operation_id="archiveCampaign")
def archive_campaign(request: HttpRequest, blog: str, slug: str, payload: ArchiveIn) -> tuple[int, None]:
    """Archive a campaign, or take it from the archive. Its posts stay either way."""
    campaign = queries.any_campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    move = actions.archive_campaign if payload.archived else actions.take_from_archive
    move(campaign, now=wiring.clock()())
    return 204, None


@router.post("/blogs/{blog}/campaigns/{slug}/revisions", response=CampaignOut, operation_id="saveRevision")
def save_revision(request: HttpRequest, blog: str, slug: str, payload: SaveIn) -> CampaignOut:
    """Save rules as a new revision."""
    campaign = queries.campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    actions.save_revision(
        campaign, payload.document, base=payload.base, by=person_of(request), note=payload.note, now=wiring.clock()()
    )
    return _campaign(campaign)


@router.post("/blogs/{blog}/campaigns/{slug}/sources", response=TakenOut, operation_id="takeSources")
def take_sources(request: HttpRequest, blog: str, slug: str, payload: TakeSourcesIn) -> TakenOut:
    """Add sources to what a campaign gathers, as a new revision on top of the latest."""
    campaign = queries.campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    return TakenOut(added=actions.take_sources(campaign, payload.keys, by=person_of(request), now=wiring.clock()()))


@router.get("/blogs/{blog}/campaigns/{slug}/revisions", response=RevisionPageOut, operation_id="listRevisions")
def list_revisions(
    request: HttpRequest, blog: str, slug: str, limit: Limit = PAGE, offset: Offset = 0
) -> RevisionPageOut:
    """Return the revisions, newest first."""
    campaign = queries.campaign_of(blog_for(request.user, blog), slug)
    rows, total = page_of(queries.revisions_of(campaign), limit=limit, offset=offset)
    return RevisionPageOut(
        rows=[RevisionOut(number=row.number, saved_at=row.saved_at, saved_by=_by(row), note=row.note) for row in rows],
        total=total,
    )


@router.delete("/blogs/{blog}/unused-word-lists/{key}", response={204: None}, operation_id="removeWordList")
def remove_word_list(request: HttpRequest, blog: str, key: str) -> tuple[int, None]:
    """Remove a word list that no rule names."""
    actions.drop_word_list(blog_for(request.user, blog, Role.EDITOR), key)
    return 204, None


@router.delete("/blogs/{blog}/unused-services/{key}", response={204: None}, operation_id="removeService")
def remove_service(request: HttpRequest, blog: str, key: str) -> tuple[int, None]:
    """Remove a language service that no rule names."""
    actions.drop_service(blog_for(request.user, blog, Role.EDITOR), key, now=wiring.clock()())
    return 204, None


@router.delete("/blogs/{blog}/unused-term-tables/{key}", response={204: None}, operation_id="removeTermTable")
def remove_term_table(request: HttpRequest, blog: str, key: str) -> tuple[int, None]:
    """Remove a table of terms that no rule names."""
    actions.drop_term_table(blog_for(request.user, blog, Role.EDITOR), key)
    return 204, None


@router.put("/blogs/{blog}/campaigns/{slug}/schedule", response=CampaignOut, operation_id="setSchedule")
def set_schedule(request: HttpRequest, blog: str, slug: str, payload: ScheduleIn) -> CampaignOut:
    """Set when a campaign runs automatically.

    The schedule is separate from the rules and makes no revision.
    """
    campaign = queries.campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    now = wiring.clock()()
    changed = actions.set_schedule(campaign, payload.schedule, paused=payload.paused, begun=payload.version, now=now)
    return _campaign(changed)


_SHOWN_TIMES = 5


@router.post("/blogs/{blog}/schedule-times", response=TimesOut, operation_id="listScheduleTimes")
def list_schedule_times(request: HttpRequest, blog: str, payload: TimesIn) -> TimesOut:
    """Return the next five times of a schedule before it is saved."""
    owned = blog_for(request.user, blog)
    zone = zone_named(payload.time_zone or owned.time_zone)
    times = next_times(payload.schedule, zone, wiring.clock()(), _SHOWN_TIMES)
    return TimesOut(times=times, time_zone=zone.key)


@router.post("/blogs/{blog}/pause", response=PausedOut, operation_id="pauseCampaigns")
def pause_campaigns(request: HttpRequest, blog: str, payload: PauseIn) -> PausedOut:
    """Pause or resume campaigns, all of the blog where none is named."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    now = wiring.clock()()
    return PausedOut(changed=actions.set_paused(owned, payload.slugs, paused=payload.paused, now=now))


@router.put("/blogs/{blog}/time-zone", response={204: None}, operation_id="setTimeZone")
def set_time_zone(request: HttpRequest, blog: str, payload: TimeZoneIn) -> tuple[int, None]:
    """Set the time zone of a blog.

    Campaigns keep their times of day.
    """
    owned = blog_for(request.user, blog, Role.OWNER)
    actions.move_to_time_zone(owned, payload.time_zone, now=wiring.clock()())
    return 204, None


@router.get("/time-zones", response=list[str], operation_id="listTimeZones")
def list_time_zones(request: HttpRequest) -> list[str]:
    """Return the names of all time zones (IANA)."""
    del request
    return sorted(available_timezones())


@router.get("/blogs/{blog}/library-uses", response=LibraryUsesOut, operation_id="listLibraryUses")
def list_library_uses(request: HttpRequest, blog: str) -> LibraryUsesOut:
    """Return the campaigns that use each word list, table of terms and language service."""
    return LibraryUsesOut.from_orm(queries.library_uses(blog_for(request.user, blog)))


@router.get("/blogs/{blog}/defaults", response=CampaignDocument, operation_id="getDefaults")
def get_defaults(request: HttpRequest, blog: str) -> CampaignDocument:
    """Return the rules of new campaigns."""
    return queries.defaults_of(blog_for(request.user, blog))


@router.put("/blogs/{blog}/defaults", response=CampaignDocument, operation_id="setDefaults")
def set_defaults(request: HttpRequest, blog: str, payload: CampaignDocument) -> CampaignDocument:
    """Set the rules of new campaigns, without sources."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    actions.set_blog_defaults(owned, payload)
    return queries.defaults_of(owned)


@router.delete("/blogs/{blog}/defaults", response=CampaignDocument, operation_id="clearDefaults")
def clear_defaults(request: HttpRequest, blog: str) -> CampaignDocument:
    """Restore the product's defaults."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    actions.set_blog_defaults(owned, None)
    return queries.defaults_of(owned)


@router.get("/layouts", response=list[LayoutOut], operation_id="listLayouts")
def list_layouts(request: HttpRequest) -> list[LayoutOut]:
    """Return the layouts to begin a body from, and the template variables."""
    del request
    return [LayoutOut(key=layout.key, name=layout.name, purpose=layout.purpose, body=layout.body) for layout in LAYOUTS]


@router.get("/template-variables", response=dict[str, str], operation_id="listVariables")
def list_variables(request: HttpRequest) -> dict[str, str]:
    """Return every template variable with its description."""
    del request
    return dict(VARIABLES)


@router.get(
    "/blogs/{blog}/campaigns/{slug}/revisions/{int:number}", response=CampaignDocument, operation_id="getRevision"
)
def get_revision(request: HttpRequest, blog: str, slug: str, number: int) -> CampaignDocument:
    """Return the rules of a revision."""
    campaign = queries.campaign_of(blog_for(request.user, blog), slug)
    return queries.document_of(queries.revision_of(campaign, number))


@router.get("/blogs/{blog}/campaigns/{slug}/yaml", response=YamlOut, operation_id="exportCampaign")
def export_campaign(request: HttpRequest, blog: str, slug: str) -> YamlOut:
    """Return the saved rules as YAML."""
    campaign = queries.campaign_of(blog_for(request.user, blog), slug)
    text = to_yaml(queries.document_of(queries.latest_revision(campaign)))
    return YamlOut(yaml=text, file_name=f"{campaign.slug}.yaml")


@router.post("/campaign-documents", response=CampaignDocument, operation_id="readYaml")
def read_yaml(request: HttpRequest, payload: YamlIn) -> CampaignDocument:
    """Parse rules from YAML.

    Nothing is saved.
    """
    del request
    return from_yaml(payload.yaml)
