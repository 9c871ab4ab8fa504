import django.db.models.deletion
from django.db import migrations, models

_ASKS = """
INSERT INTO sources_platformask (source_id, platform, connection_id, parameters, search_words)
SELECT id, platform, connection_id, parameters, search_words FROM sources_source WHERE platform <> ''
"""
_ACCESS = """
INSERT INTO sources_sourceaccess (source_id, sealed, any_certificate, pause_ms)
SELECT id, access_sealed, any_certificate, pause_ms FROM sources_source
WHERE access_sealed <> '' OR any_certificate OR pause_ms > 0
"""
_TEXTS = """
INSERT INTO sources_fulltext (source_id, words, reader_id, selector)
SELECT id, full_text_words, text_reader_id, text_selector FROM sources_source
WHERE full_text_words > 0 OR text_reader_id IS NOT NULL OR text_selector <> ''
"""
_MOVED = """platform connection parameters search_words full_text_words text_reader text_selector pause_ms
    any_certificate access_sealed""".split()


def _with_source(name: str) -> tuple[str, models.Field]:
    return "source", models.OneToOneField(
        on_delete=django.db.models.deletion.CASCADE,
        primary_key=True,
        related_name=name,
        serialize=False,
        to="sources.source",
    )


class Migration(migrations.Migration):
    """What a source asks a platform for, its access, and its full texts get rows of their own, where there are any."""

    dependencies = [("sources", "0018_state")]

    operations = [
        migrations.CreateModel(
            "PlatformAsk",
            [
                _with_source("ask_row"),
                ("platform", models.CharField(max_length=20)),
                ("parameters", models.JSONField(default=dict)),
                ("search_words", models.JSONField(default=list)),
                (
                    "connection",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.RESTRICT,
                        related_name="asks",
                        to="platforms.connection",
                    ),
                ),
            ],
        ),
        migrations.CreateModel(
            "SourceAccess",
            [
                _with_source("access_row"),
                ("sealed", models.TextField(blank=True)),
                ("any_certificate", models.BooleanField(default=False)),
                ("pause_ms", models.PositiveIntegerField(default=0)),
            ],
        ),
        migrations.CreateModel(
            "FullText",
            [
                _with_source("full_text_row"),
                ("words", models.PositiveIntegerField(default=0)),
                (
                    "reader",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.RESTRICT,
                        related_name="full_texts",
                        to="pages.reader",
                    ),
                ),
                ("selector", models.CharField(blank=True, max_length=500)),
            ],
        ),
        *(migrations.RunSQL(statement, migrations.RunSQL.noop) for statement in (_ASKS, _ACCESS, _TEXTS)),
        # The new foreign keys are checked now, because a table with pending checks cannot be altered.
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE; SET CONSTRAINTS ALL DEFERRED", migrations.RunSQL.noop),
        *(migrations.RemoveField("source", name) for name in _MOVED),
    ]
