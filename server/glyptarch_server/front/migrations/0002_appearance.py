"""What a blog's owner chooses, and its time zone, change its pages as well."""

from django.db import migrations

_WATCHED = "slug, title, tagline, language, player_hosts, removed_at"


def _trigger(columns: str) -> str:
    return (
        "DROP TRIGGER page_blog ON blogs_blog; "
        f"CREATE TRIGGER page_blog AFTER UPDATE OF {columns} OR DELETE ON blogs_blog FOR EACH ROW "
        "EXECUTE FUNCTION tell_change_of_blog('changed');"
    )


class Migration(migrations.Migration):
    dependencies = [("front", "0001_told_changes"), ("blogs", "0010_appearance")]
    operations = [migrations.RunSQL(_trigger(f"{_WATCHED}, appearance, time_zone, full_feeds"), _trigger(_WATCHED))]
