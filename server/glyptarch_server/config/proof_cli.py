"""A proof by the core alone, without a database.

``./glyptarch proof CAMPAIGN.yaml --feed FILE_OR_URL``
"""

import argparse
import json
import os
import sys
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from glyptarch_core.campaign import CampaignDocument
from glyptarch_core.errors import CoreError, DocumentError
from glyptarch_core.item import Captured, SourceCard
from glyptarch_core.pipeline import decide
from glyptarch_core.ports import Candidate, Key, Memory, Near, Reach, Seen
from glyptarch_core.readers import read_feed
from glyptarch_core.trace import Decision

from glyptarch_server.campaigns.yaml_form import from_yaml
from glyptarch_server.wiring import FetchCode, FetchError, FetchPortal, FetchRequest

__all__ = ["main"]

_TITLE = 60


class _NoMemory(Memory):
    """Nothing has been seen before."""

    def recall(self, keys: Collection[Key], reach: Reach) -> Mapping[Key, Seen]:
        del keys, reach
        return {}

    def resembling(self, near: Near, keys: Sequence[Sequence[int]], reach: Reach) -> Sequence[Sequence[Candidate]]:
        del near, reach
        return [[] for _ in keys]

    def dates(self, first: datetime, last: datetime) -> Sequence[datetime]:
        del first, last
        return ()

    def put_out(self, since: datetime) -> Sequence[datetime]:
        del since
        return ()


def _read(feed: str) -> tuple[bytes, str, str]:
    """Return the bytes of a file or address, with the address and content type."""
    if not feed.startswith(("http://", "https://")):
        return Path(feed).read_bytes(), Path(feed).resolve().as_uri(), ""
    allowed = frozenset(filter(None, os.environ.get("GLYPTARCH_FETCH_ALLOW", "").split(",")))
    answer = FetchPortal(allowed=allowed).fetch_all([FetchRequest(url=feed)])[0]
    if isinstance(answer, FetchError):
        raise answer
    return answer.body, answer.url, answer.content_type


def _prove(document: CampaignDocument, feed: str) -> tuple[Decision, ...]:
    body, url, content_type = _read(feed)
    key = document.gather.sources[0] if document.gather.sources else "feed"
    gather = document.gather.model_copy(update={"sources": (key,), "labels": ()})
    read = read_feed(body, source=key, url=url, content_type=content_type)
    now = datetime.now(UTC)
    card = SourceCard(key=key, title=read.title, link=read.link)
    batch = [
        Captured(item=entry.item, features=entry.computed(), source=card, captured_at=now) for entry in read.entries
    ]
    return decide(batch, document.model_copy(update={"gather": gather}), memory=_NoMemory(), now=now)


def _plain(decision: Decision, *, explain: bool) -> dict[str, Any]:
    item, draft = decision.captured.item, decision.draft
    plain: dict[str, Any] = {
        "title": item.title,
        "link": item.link,
        "verdict": decision.verdict.value,
        "left_at": decision.left_at.value if decision.left_at else None,
        "reason": decision.reason.code if decision.reason else None,
        "post": {"title": draft.title, "excerpt": draft.excerpt, "category": draft.category} if draft else None,
    }
    if explain:
        plain["trace"] = [
            {"stage": note.stage.value, "rule": note.rule, "code": note.code, "data": dict(note.data)}
            for note in decision.trace
        ]
    return plain


def _print(decisions: Sequence[Decision], *, explain: bool) -> None:
    for decision in decisions:
        reason = decision.reason
        why = f"{decision.left_at or ''} {reason.code if reason else ''}".strip()
        print(f"{decision.verdict.value:10} {decision.captured.item.title[:_TITLE]:{_TITLE}}  {why}")
        if explain:
            for note in decision.trace:
                mark = "-" if note.against else "+"
                print(f"    {mark} {note.stage.value:8} {note.rule:14} {note.code}")
    counts = Counter(decision.verdict.value for decision in decisions)
    print(", ".join(f"{number} {verdict}" for verdict, number in sorted(counts.items())) or "The feed has no items.")


def main(words: Sequence[str] | None = None) -> int:
    """Parse the arguments and print the proof.

    Return 1 on failure.
    """
    parser = argparse.ArgumentParser(prog="./glyptarch proof", description="Prove a campaign on a feed.")
    parser.add_argument("campaign", type=Path, help="the campaign document, as YAML")
    parser.add_argument("--feed", required=True, help="a file or an address")
    parser.add_argument("--explain", action="store_true", help="show the trace of every item")
    parser.add_argument("--json", action="store_true", help="print JSON")
    options = parser.parse_args(words)
    try:
        decisions = _prove(from_yaml(options.campaign.read_text()), options.feed)
    except DocumentError as error:
        for fault in error.faults:
            print(f"{options.campaign}: {fault}", file=sys.stderr)
        return 1
    except (CoreError, FetchError, OSError) as error:
        print(error, file=sys.stderr)
        if isinstance(error, FetchError) and error.code is FetchCode.PRIVATE_ADDRESS:
            print("One of your own is read when GLYPTARCH_FETCH_ALLOW names it, as host:port.", file=sys.stderr)
        return 1
    if options.json:
        print(json.dumps([_plain(decision, explain=options.explain) for decision in decisions], indent=1, default=str))
    else:
        _print(decisions, explain=options.explain)
    return 0


if __name__ == "__main__":
    sys.exit(main())
