"""A change of a product ends the pages that show it, and leaves the others of its blog."""

from django.db import migrations

_FUNCTION = """
CREATE FUNCTION tell_change_of_goods() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM tell_blog_change(COALESCE(NEW.blog_id, OLD.blog_id), 'goods ' || COALESCE(NEW.id, OLD.id));
    RETURN NULL;
END $$;
"""
_SHOWN = (
    *("price", "list_price", "currency", "availability", "condition", "rating", "rating_count"),
    *("until", "title", "link", "held", "successor_id"),
)
_DROPPED = "DROP TRIGGER page_product ON offers_product; DROP TRIGGER page_product_gone ON offers_product;"


def _triggers(shown: tuple[str, ...], function: str) -> str:
    differs = " OR ".join(f"OLD.{column} IS DISTINCT FROM NEW.{column}" for column in shown)
    return (
        f"CREATE TRIGGER page_product AFTER UPDATE OF {', '.join(shown)} ON offers_product FOR EACH ROW "
        f"WHEN ({differs}) EXECUTE FUNCTION {function};"
        f"CREATE TRIGGER page_product_gone AFTER DELETE ON offers_product FOR EACH ROW EXECUTE FUNCTION {function};"
    )


_QUIET = (
    "CREATE TRIGGER page_post_quiet AFTER UPDATE OF quiet_goods ON posts_post FOR EACH ROW "
    "WHEN (OLD.state = 'published') EXECUTE FUNCTION tell_change_in_blog('changed');"
)
_RIGHT = (
    "CREATE TRIGGER page_source_right AFTER UPDATE OF \"right\" ON sources_source FOR EACH ROW "
    "WHEN (OLD.\"right\" <> NEW.\"right\") EXECUTE FUNCTION tell_change_in_blog('changed');"
)


class Migration(migrations.Migration):
    dependencies = [("front", "0003_offers"), ("offers", "0002_details"), ("posts", "0015_quiet_goods")]
    operations = [
        migrations.RunSQL(
            _FUNCTION + _DROPPED + _triggers((*_SHOWN, "details"), "tell_change_of_goods()"),
            _DROPPED + _triggers(_SHOWN, "tell_change_in_blog('changed')") + "DROP FUNCTION tell_change_of_goods;",
        ),
        migrations.RunSQL(
            _QUIET + _RIGHT,
            "DROP TRIGGER page_post_quiet ON posts_post; DROP TRIGGER page_source_right ON sources_source;",
        ),
    ]
