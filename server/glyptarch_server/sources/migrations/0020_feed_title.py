from django.db import migrations, models

_COLUMNS = (
    "format, link, language, etag, last_modified, broken_off, next_read_at, skip_hours, failures, failing_since, gone_at, "
    "health, health_data, judged_at, in_doubt, moved_to, moved_times, hub, topic, pushed_until, item_count"
)
_DEFAULTS = (
    "'', '', '', '', '', '{}'::jsonb, NULL, '{}', 0, NULL, NULL, "
    "'unread', '{}'::jsonb, NULL, false, '', 0, '', '', NULL, 0"
)
_MADE_WITH_ITS_SOURCE = """
CREATE OR REPLACE FUNCTION source_added() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO sources_sourcestate (source_id, {columns}) VALUES (NEW.id, {values});
    RETURN NULL;
END $$;
"""


class Migration(migrations.Migration):
    """The state of a source has the name that its feed gives itself."""

    dependencies = [("sources", "0019_parts")]

    operations = [
        migrations.AddField("sourcestate", "title", models.CharField(blank=True, max_length=300)),
        migrations.RunSQL(
            _MADE_WITH_ITS_SOURCE.format(columns=f"title, {_COLUMNS}", values=f"'', {_DEFAULTS}"),
            _MADE_WITH_ITS_SOURCE.format(columns=_COLUMNS, values=_DEFAULTS),
        ),
    ]
