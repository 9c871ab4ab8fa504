from django.db import migrations, models

_COLUMNS = (
    "title, format, link, language, etag, last_modified, broken_off, next_read_at, skip_hours, failures, failing_since, "
    "gone_at, health, health_data, judged_at, in_doubt, moved_to, moved_times, hub, topic, pushed_until, item_count"
)
_DEFAULTS = (
    "'', '', '', '', '', '', '{}'::jsonb, NULL, '{}', 0, NULL, NULL, "
    "'unread', '{}'::jsonb, NULL, false, '', 0, '', '', NULL, 0"
)
_MADE_WITH_ITS_SOURCE = """
CREATE OR REPLACE FUNCTION source_added() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO sources_sourcestate (source_id, {columns}) VALUES (NEW.id, {values});
    RETURN NULL;
END $$;
"""
_AS_THEY_ARE = """
UPDATE sources_sourcestate s SET
    given_at = CASE WHEN s.item_count > 0 OR s.health <> 'unread' THEN now() END,
    lately = CASE WHEN s.failures > 0 THEN (1 << LEAST(s.failures, 10)) - 1 ELSE 0 END,
    error = CASE WHEN s.failures > 0 THEN COALESCE(
        (SELECT r.error FROM sources_reading r WHERE r.source_id = s.source_id ORDER BY r.at DESC LIMIT 1), ''
    ) ELSE '' END;
"""


class Migration(migrations.Migration):
    """The state of a source has its cause, its last ten readings, and when it gave something."""

    dependencies = [("sources", "0020_feed_title")]

    operations = [
        migrations.AddField("sourcestate", "error", models.CharField(blank=True, max_length=40)),
        migrations.AddField("sourcestate", "lately", models.PositiveSmallIntegerField(default=0)),
        migrations.AddField("sourcestate", "given_at", models.DateTimeField(null=True)),
        migrations.RunSQL(_AS_THEY_ARE, migrations.RunSQL.noop),
        migrations.RunSQL(
            _MADE_WITH_ITS_SOURCE.format(
                columns=f"error, lately, given_at, {_COLUMNS}", values=f"'', 0, NULL, {_DEFAULTS}"
            ),
            _MADE_WITH_ITS_SOURCE.format(columns=_COLUMNS, values=_DEFAULTS),
        ),
    ]
