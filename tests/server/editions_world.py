"""``python -m tests.server.editions_world ITEMS HOST``: a campaign that makes editions."""

import sys
from datetime import UTC, datetime

import django

django.setup()

from glyptarch_core.editions.described import READY  # noqa: E402 - needs the apps to be set up
from glyptarch_server.blogs.models import Blog  # noqa: E402
from glyptarch_server.runs.actions import begin_run  # noqa: E402
from glyptarch_server.services.actions import make_service  # noqa: E402
from glyptarch_standins.lingua import LINGUA_KEY  # noqa: E402

from tests.server.fixtures import fill, make_blog, make_campaign, make_source  # noqa: E402
from tests.server.texts_world import LANGUAGES  # noqa: E402

if __name__ == "__main__":
    items, host = int(sys.argv[1]), sys.argv[2]
    blog = make_blog()
    fill(make_source(blog), range(items), language="en")
    now = datetime.now(UTC)
    service = make_service(
        blog,
        name="Machine",
        document=READY["list"].model_dump(mode="json") | {"address": f"http://{host}/lingua/texts"},
        secret=LINGUA_KEY,
        most_a_day=None,
        price=None,
        currency="",
        now=now,
    )
    languages = [{"tag": language, "services": [service.key]} for language in LANGUAGES]
    Blog.objects.filter(pk=blog.pk).update(languages={"languages": languages})
    blog.refresh_from_db()
    editions = [{"to": language, "mode": "publish"} for language in LANGUAGES]
    rules = {"match": {"rules": []}, "sift": {"rules": []}, "release": {"mode": "publish", "editions": editions}}
    begin_run(make_campaign(blog, "Here", **rules), by=None, now=now)
