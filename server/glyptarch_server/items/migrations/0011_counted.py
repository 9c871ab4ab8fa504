from django.db import migrations

# One statement counts for all rows that it adds or removes, so that a batch changes each source once.
_COUNT = """
CREATE FUNCTION item_added() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE sources_source s SET item_count = s.item_count + c.number
    FROM (SELECT source_id, count(*) AS number FROM added GROUP BY source_id) c WHERE s.id = c.source_id;
    RETURN NULL;
END $$;
CREATE FUNCTION item_removed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE sources_source s SET item_count = s.item_count - c.number
    FROM (SELECT source_id, count(*) AS number FROM removed GROUP BY source_id) c WHERE s.id = c.source_id;
    RETURN NULL;
END $$;
CREATE TRIGGER item_added AFTER INSERT ON items_item REFERENCING NEW TABLE AS added
    FOR EACH STATEMENT EXECUTE FUNCTION item_added();
CREATE TRIGGER item_removed AFTER DELETE ON items_item REFERENCING OLD TABLE AS removed
    FOR EACH STATEMENT EXECUTE FUNCTION item_removed();
UPDATE sources_source s SET item_count = c.number
    FROM (SELECT source_id, count(*) AS number FROM items_item GROUP BY source_id) c WHERE s.id = c.source_id;
"""
_NOT_ANY_MORE = """
DROP TRIGGER item_added ON items_item; DROP TRIGGER item_removed ON items_item;
DROP FUNCTION item_added(); DROP FUNCTION item_removed();
"""


class Migration(migrations.Migration):
    dependencies = [("items", "0010_takedown"), ("sources", "0015_source_item_count")]

    operations = [migrations.RunSQL(_COUNT, _NOT_ANY_MORE)]
