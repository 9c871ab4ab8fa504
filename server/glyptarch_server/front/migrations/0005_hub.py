"""The hub that a blog names stands in its feeds, so another one ends the kept pages."""

from django.db import migrations

_WATCHED = "slug, title, tagline, language, player_hosts, removed_at, appearance, time_zone, full_feeds, offers"


def _blog(columns: str) -> str:
    return (
        "DROP TRIGGER page_blog ON blogs_blog; CREATE TRIGGER page_blog "
        f"AFTER UPDATE OF {columns} OR DELETE ON blogs_blog FOR EACH ROW EXECUTE FUNCTION tell_change_of_blog('changed');"
    )


class Migration(migrations.Migration):
    dependencies = [("front", "0004_goods"), ("blogs", "0012_hub")]
    operations = [migrations.RunSQL(_blog(f"{_WATCHED}, hub"), _blog(_WATCHED))]
