"""Why nothing arrives: the facts of a campaign, gathered for the core to judge."""

from typing import TYPE_CHECKING

from glyptarch_core.checkup import Facts, Finding, RunFacts, SourceFacts, checkup
from glyptarch_core.health import Health
from glyptarch_core.schedule import ByHand

from glyptarch_server.campaigns.queries import document_of, latest_revision, schedule_of, sources_for
from glyptarch_server.runs import queries
from glyptarch_server.sources.queries import last_details, newest_items

if TYPE_CHECKING:
    from glyptarch_server.campaigns.models import Campaign

__all__ = ["check_campaign"]


def check_campaign(campaign: "Campaign") -> list[Finding]:
    """Check every step of a campaign from the address to the blog, and return where it stops."""
    document = document_of(latest_revision(campaign))
    sources = sources_for(campaign.blog, document)
    lately, details, items = queries.lately_decided(campaign), last_details(sources), newest_items(sources)
    last = lately.last
    return checkup(
        Facts(
            by_hand=isinstance(schedule_of(campaign).when, ByHand),
            paused=campaign.paused,
            next_run_at=campaign.next_run_at,
            sources=[
                SourceFacts(
                    key=source.key,
                    title=source.title,
                    health=Health(source.state.health),
                    detail=details.get(source.pk, ""),
                    items=items[source.pk][0] if source.pk in items else 0,
                    newest=items[source.pk][1] if source.pk in items else None,
                )
                for source in sources
            ],
            run=RunFacts(number=last.pk, at=last.asked_at, ended=last.ended_at is not None, failure=last.failure)
            if last
            else None,
            waiting=queries.undecided(campaign, sources).count(),
            decided=lately.verdicts,
            reasons=lately.reasons,
            posts=lately.posts,
        )
    )
