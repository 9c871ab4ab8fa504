"""What a blog says of shops, and what is shown of its products, changes pages as well.

A reading that only confirms a price changes none: pages end when their first price does, and are then made anew.
"""

from django.db import migrations

_WATCHED = "slug, title, tagline, language, player_hosts, removed_at, appearance, time_zone, full_feeds"


def _blog(columns: str) -> str:
    return (
        "DROP TRIGGER page_blog ON blogs_blog; CREATE TRIGGER page_blog "
        f"AFTER UPDATE OF {columns} OR DELETE ON blogs_blog FOR EACH ROW EXECUTE FUNCTION tell_change_of_blog('changed');"
    )


_SHOWN = (
    *("price", "list_price", "currency", "availability", "condition", "rating", "rating_count"),
    *("until", "title", "link", "held", "successor_id"),
)
_DIFFERS = " OR ".join(f"OLD.{column} IS DISTINCT FROM NEW.{column}" for column in _SHOWN)
_PRODUCT = (
    f"CREATE TRIGGER page_product AFTER UPDATE OF {', '.join(_SHOWN)} ON offers_product FOR EACH ROW "
    f"WHEN ({_DIFFERS}) EXECUTE FUNCTION tell_change_in_blog('changed');"
    "CREATE TRIGGER page_product_gone AFTER DELETE ON offers_product FOR EACH ROW "
    "EXECUTE FUNCTION tell_change_in_blog('changed');"
)


class Migration(migrations.Migration):
    dependencies = [("front", "0002_appearance"), ("blogs", "0011_blog_offers"), ("offers", "0001_initial")]
    operations = [
        migrations.RunSQL(_blog(f"{_WATCHED}, offers"), _blog(_WATCHED)),
        migrations.RunSQL(
            _PRODUCT,
            "DROP TRIGGER page_product ON offers_product; DROP TRIGGER page_product_gone ON offers_product;",
        ),
    ]
