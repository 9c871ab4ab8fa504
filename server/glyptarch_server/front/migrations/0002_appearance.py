"""What an owner chooses for a blog, its time zone and the address of a source change pages as well."""

from django.db import migrations


def _trigger(name: str, table: str, event: str, function: str, only: str = "") -> str:
    condition = f"WHEN ({only}) " if only else ""
    return (
        f"DROP TRIGGER {name} ON {table}; CREATE TRIGGER {name} AFTER {event} ON {table} FOR EACH ROW {condition}"
        f"EXECUTE FUNCTION {function}('changed');"
    )


def _blog(more: str = "") -> str:
    watched = f"slug, title, tagline, language, player_hosts, removed_at{more}"
    return _trigger("page_blog", "blogs_blog", f"UPDATE OF {watched} OR DELETE", "tell_change_of_blog")


def _source(*columns: str) -> str:
    differs = " OR ".join(f"OLD.{column} <> NEW.{column}" for column in columns)
    event = f"UPDATE OF {', '.join(columns)}"
    return _trigger("page_source", "sources_source", event, "tell_change_in_blog", differs)


class Migration(migrations.Migration):
    dependencies = [("front", "0001_told_changes"), ("blogs", "0010_appearance")]
    operations = [
        migrations.RunSQL(_blog(", appearance, time_zone, full_feeds"), _blog()),
        migrations.RunSQL(_source("title", "url", "key"), _source("title")),
    ]
