"""``python -m tests.server.texts_world ITEMS HOST``: three campaigns that translate."""

import sys
from datetime import UTC, datetime

import django

django.setup()

from glyptarch_core.editions.described import READY  # noqa: E402 - needs the apps to be set up
from glyptarch_server.runs.actions import begin_run  # noqa: E402
from glyptarch_server.services.actions import make_service  # noqa: E402
from glyptarch_standins.lingua import LINGUA_KEY  # noqa: E402

from tests.server.fixtures import fill, make_blog, make_campaign, make_source  # noqa: E402

LANGUAGES = ("de", "ja", "ar")

if __name__ == "__main__":
    items, host = int(sys.argv[1]), sys.argv[2]
    blog = make_blog()
    fill(make_source(blog), range(items), language="en")
    now = datetime.now(UTC)
    document = READY["list"].model_dump(mode="json")
    service = make_service(
        blog,
        name="Machine",
        document={**document, "address": f"http://{host}/lingua/texts", "texts_at_once": 4},
        secret=LINGUA_KEY,
        most_a_day=None,
        price=None,
        currency="",
        now=now,
    )
    for language in LANGUAGES:
        step = {"id": "t", "kind": "translate", "services": [service.key], "to": language}
        rules = {"shape": {"steps": [step]}, "match": {"against": "campaign", "rules": []}, "sift": {"rules": []}}
        begin_run(make_campaign(blog, language, **rules), by=None, now=now)
