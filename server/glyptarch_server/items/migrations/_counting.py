"""SQL of the triggers that keep `Source.item_count`, shared by a migration and its squashed form."""

__all__ = ["COUNT", "STOP_COUNTING"]

# One statement counts for all rows that it adds or removes, so that a batch changes each source once.
COUNT = """
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
STOP_COUNTING = """
DROP TRIGGER item_added ON items_item; DROP TRIGGER item_removed ON items_item;
DROP FUNCTION item_added(); DROP FUNCTION item_removed();
"""
