"""Trying several ways to begin a campaign over the same items, before there is a campaign."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import partial

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import EmptyMemory
from glyptarch_core.reuse import Reuse
from glyptarch_core.trace import Decision, Verdict

from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.campaigns.queries import sources_for
from glyptarch_server.items.queries import recent_captured
from glyptarch_server.posts.context import context_for
from glyptarch_server.posts.proof_memory import ProofMemory
from glyptarch_server.proofs.tally import is_foreign
from glyptarch_server.sources.models import Source

__all__ = ["MOST_ITEMS", "Tried", "try_rules"]

MOST_ITEMS = 60
"""The newest items that rules are tried over."""
_SINCE = timedelta(days=365)
_NO_CAMPAIGN = 0
"""The row number of a campaign that does not exist yet: it has no posts and no decisions of its own."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Tried:
    """The decisions of some rules as if the blog had no post yet, newest item first.

    ``on_blog`` is how many of the items would be no new post, because posts of the blog tell them already.
    """

    decisions: Sequence[Decision]
    on_blog: int

    @property
    def posts(self) -> list[Decision]:
        """Those that become posts, held ones with them."""
        return [decision for decision in self.decisions if decision.draft is not None]

    @property
    def held(self) -> int:
        """The number of posts that wait for a person."""
        return sum(decision.verdict is Verdict.HOLD for decision in self.posts)

    @property
    def reasons(self) -> list[tuple[Decision, int]]:
        """The reasons why items become no post, most frequent first.

        Each is told by the first decision that has it, with the number of those that do.
        """
        first: dict[tuple[str, str], Decision] = {}
        counts: Counter[tuple[str, str]] = Counter()
        for decision in self.decisions:
            if decision.draft is None and decision.reason is not None:
                key = decision.reason.code, decision.reason.rule
                first.setdefault(key, decision)
                counts[key] += 1
        return [(first[key], number) for key, number in counts.most_common()]


def try_rules(blog: Blog, documents: Sequence[CampaignDocument], *, now: datetime) -> list[Tried]:
    """Decide the newest items of the sources of some rules, by each of them, and write nothing.

    What is a post of the blog already is decided as if it were none, so that the effect of the rules is seen, and
    counted apart.
    """
    campaign = Campaign(pk=_NO_CAMPAIGN, blog=blog)
    reuse = Reuse()
    sources: dict[tuple[tuple[str, ...], tuple[str, ...]], Sequence[Source]] = {}
    tried: list[Tried] = []
    for document in documents:
        gather = document.gather
        key = gather.sources, gather.labels
        if key not in sources:
            sources[key] = sources_for(blog, document)
        captured = recent_captured(sources[key], since=now - _SINCE, limit=MOST_ITEMS)
        batch, context = list(captured.values()), context_for(blog, [document])
        decided = partial(decide, batch, document, now=now, reuse=reuse, context=context)
        alone = decided(memory=EmptyMemory())
        known = decided(memory=ProofMemory(campaign, leaving_out=list(captured)))
        tried.append(
            Tried(
                decisions=[decision for decision in alone if not is_foreign(decision)],
                on_blog=sum(
                    before.draft is not None and after.verdict is Verdict.DUPLICATE
                    for before, after in zip(alone, known, strict=True)
                ),
            )
        )
    return tried
