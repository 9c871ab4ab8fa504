"""The origin ``house`` of a lead image is called ``blog``."""

from django.db import migrations

_RENAME = """
UPDATE campaigns_revision
SET document = jsonb_set(document, '{shape,lead,order}',
    replace((document #> '{shape,lead,order}')::text, '"house"', '"blog"')::jsonb)
WHERE (document #> '{shape,lead,order}')::text LIKE '%"house"%'
"""


class Migration(migrations.Migration):
    dependencies = [("campaigns", "0001_initial")]

    operations = [migrations.RunSQL(_RENAME, migrations.RunSQL.noop)]
