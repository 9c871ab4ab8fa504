"""Proofs computed at the start of a web process, before the first request for them."""

import logging
import threading

from django.db import DatabaseError, connection

from glyptarch_server import wiring
from glyptarch_server.campaigns.queries import document_of, latest_revision
from glyptarch_server.proofs.prove import make_proof
from glyptarch_server.runs.queries import lately_run

__all__ = ["begin_warming", "warm"]

_log = logging.getLogger("glyptarch.runs")
_CAMPAIGNS = 4


def warm() -> int:
    """Compute the proofs of the campaigns run last, to load their items and words.

    Return how many.
    """
    campaigns = lately_run(_CAMPAIGNS)
    for campaign in campaigns:
        make_proof(campaign, document_of(latest_revision(campaign)), now=wiring.clock()())
    return len(campaigns)


def begin_warming() -> None:
    """Warm up beside the first requests, which do not wait for it."""
    threading.Thread(target=_warm_quietly, name="warming", daemon=True).start()


def _warm_quietly() -> None:
    try:
        warm()
    except DatabaseError:
        # The database is still being set up; the first proof is then computed on request.
        _log.info("proofs are not warmed up: the database is not ready")
    finally:
        connection.close()
