"""``python -m tests.server.restart_world ITEMS``: a campaign with items and a waiting run."""

import sys
from datetime import UTC, datetime

import django

django.setup()

from glyptarch_server.runs.actions import begin_run  # noqa: E402 - needs the apps to be set up

from tests.server.fixtures import fill, make_blog, make_campaign, make_source  # noqa: E402

blog = make_blog()
fill(make_source(blog), range(int(sys.argv[1])))
begin_run(make_campaign(blog), by=None, now=datetime.now(UTC))
