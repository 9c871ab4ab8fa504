"""The origin ``house`` of a lead image is called ``blog``, in the traces on record too."""

from django.db import migrations

_RENAME = """
UPDATE runs_decision
SET trace = replace(trace::text, '"from": "house"', '"from": "blog"')::jsonb
WHERE trace::text LIKE '%"from": "house"%'
"""


class Migration(migrations.Migration):
    dependencies = [("runs", "0004_verdicts")]

    operations = [migrations.RunSQL(_RENAME, migrations.RunSQL.noop)]
