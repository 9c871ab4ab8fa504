import django.contrib.postgres.fields
import django.db.models.deletion
from django.db import migrations, models

_COLUMNS = (
    "format, link, language, etag, last_modified, broken_off, next_read_at, skip_hours, failures, failing_since, gone_at, "
    "health, health_data, judged_at, in_doubt, moved_to, moved_times, hub, topic, pushed_until, item_count"
)
_DEFAULTS = (
    "'', '', '', '', '', '{}'::jsonb, NULL, '{}', 0, NULL, NULL, "
    "'unread', '{}'::jsonb, NULL, false, '', 0, '', '', NULL, 0"
)
_MADE_WITH_ITS_SOURCE = f"""
CREATE FUNCTION source_added() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO sources_sourcestate (source_id, {_COLUMNS}) VALUES (NEW.id, {_DEFAULTS});
    RETURN NULL;
END $$;
CREATE TRIGGER source_added AFTER INSERT ON sources_source FOR EACH ROW EXECUTE FUNCTION source_added();
"""
_COUNTED_IN = """
CREATE OR REPLACE FUNCTION item_added() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE {table} s SET item_count = s.item_count + c.number
    FROM (SELECT source_id, count(*) AS number FROM added GROUP BY source_id) c WHERE s.{key} = c.source_id;
    RETURN NULL;
END $$;
CREATE OR REPLACE FUNCTION item_removed() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE {table} s SET item_count = s.item_count - c.number
    FROM (SELECT source_id, count(*) AS number FROM removed GROUP BY source_id) c WHERE s.{key} = c.source_id;
    RETURN NULL;
END $$;
"""
_MOVED = """format link language etag last_modified broken_off next_read_at skip_hours failures failing_since gone_at health
    health_data judged_at in_doubt moved_to moved_times hub topic pushed_until item_count""".split()


class Migration(migrations.Migration):
    """What readings find out about a source gets a row of its own, which people never write."""

    dependencies = [("sources", "0017_broken_off"), ("items", "0013_has_features")]

    operations = [
        migrations.RemoveIndex("source", "source_by_health"),
        migrations.CreateModel(
            "SourceState",
            [
                (
                    "source",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        primary_key=True,
                        related_name="state",
                        serialize=False,
                        to="sources.source",
                    ),
                ),
                ("format", models.CharField(blank=True, max_length=40)),
                ("link", models.CharField(blank=True, max_length=2000)),
                ("language", models.CharField(blank=True, max_length=35)),
                ("etag", models.CharField(blank=True, max_length=500)),
                ("last_modified", models.CharField(blank=True, max_length=100)),
                ("broken_off", models.JSONField(default=dict)),
                ("next_read_at", models.DateTimeField(null=True)),
                (
                    "skip_hours",
                    django.contrib.postgres.fields.ArrayField(
                        base_field=models.PositiveSmallIntegerField(), default=list, size=None
                    ),
                ),
                ("failures", models.PositiveIntegerField(default=0)),
                ("failing_since", models.DateTimeField(null=True)),
                ("gone_at", models.DateTimeField(null=True)),
                ("health", models.CharField(default="unread", max_length=10)),
                ("health_data", models.JSONField(default=dict)),
                ("judged_at", models.DateTimeField(null=True)),
                ("in_doubt", models.BooleanField(default=False)),
                ("moved_to", models.CharField(blank=True, max_length=2000)),
                ("moved_times", models.PositiveSmallIntegerField(default=0)),
                ("hub", models.CharField(blank=True, max_length=2000)),
                ("topic", models.CharField(blank=True, max_length=2000)),
                ("pushed_until", models.DateTimeField(null=True)),
                ("item_count", models.PositiveIntegerField(default=0, editable=False)),
            ],
            options={"indexes": [models.Index(fields=["health"], name="source_by_health")]},
        ),
        migrations.RunSQL(
            f"INSERT INTO sources_sourcestate (source_id, {_COLUMNS}) SELECT id, {_COLUMNS} FROM sources_source",
            migrations.RunSQL.noop,
        ),
        # The new foreign key is checked now, because a table with pending checks cannot be altered.
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE; SET CONSTRAINTS ALL DEFERRED", migrations.RunSQL.noop),
        migrations.RunSQL(_MADE_WITH_ITS_SOURCE, "DROP TRIGGER source_added ON sources_source; DROP FUNCTION source_added()"),
        migrations.RunSQL(
            _COUNTED_IN.format(table="sources_sourcestate", key="source_id"),
            _COUNTED_IN.format(table="sources_source", key="id"),
        ),
        *(migrations.RemoveField("source", name) for name in _MOVED),
    ]
