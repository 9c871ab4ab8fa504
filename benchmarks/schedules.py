"""A thousand campaigns due at one minute: the time and the queries to start their runs."""

import json
import time
from collections.abc import Callable
from datetime import timedelta
from typing import Any

from benchmarks.database import NOW, empty_database

__all__ = ["main"]

_CAMPAIGNS = 1000
# Half of the ten seconds between two ticks.
_MOST_SECONDS_A_LOOK = 5.0
_MOST_QUERIES = 20


def main() -> bool:
    """Print the figures.

    Return whether each tick takes at most half of its interval.
    """
    with empty_database():
        from django.db import connection  # noqa: PLC0415 - Django is set up only now
        from glyptarch_core.campaign import CampaignDocument  # noqa: PLC0415
        from glyptarch_core.schedule import Schedule  # noqa: PLC0415
        from glyptarch_server.blogs.actions import create_blog  # noqa: PLC0415
        from glyptarch_server.campaigns.actions import create_campaign, set_schedule  # noqa: PLC0415
        from glyptarch_server.runs.actions import begin_due  # noqa: PLC0415
        from glyptarch_server.runs.models import Run  # noqa: PLC0415

        blog = create_blog(slug="bench", title="Bench", tagline="", language="en", now=NOW)
        hourly = Schedule.model_validate({"when": {"kind": "every", "minutes": 60}})
        for number in range(_CAMPAIGNS):
            campaign = create_campaign(blog, f"Campaign {number}", CampaignDocument(), by=None, now=NOW)
            set_schedule(campaign, hourly, paused=False, now=NOW)
        due = NOW + timedelta(hours=1, minutes=1)
        looks: list[float] = []
        queries = 0

        def counted(execute: Callable[..., Any], *given: Any) -> Any:  # noqa: ANN401 - Django's own signature
            nonlocal queries
            queries += 1
            return execute(*given)

        with connection.execute_wrapper(counted):
            while True:
                begun = time.perf_counter()
                number = begin_due(now=due)
                if not number:
                    break
                looks.append(time.perf_counter() - begun)
        figures = {
            "campaigns due at one minute": _CAMPAIGNS,
            "runs begun": Run.objects.count(),
            "looks at the clock": len(looks),
            "seconds of the longest look": round(max(looks), 2),
            "milliseconds a run": round(1000 * sum(looks) / _CAMPAIGNS, 1),
            "queries a run": round(queries / _CAMPAIGNS, 1),
        }
        print("schedules:", json.dumps(figures, indent=1))
        all_begun = Run.objects.count() == _CAMPAIGNS
    return all_begun and max(looks) <= _MOST_SECONDS_A_LOOK and queries <= _MOST_QUERIES * _CAMPAIGNS
