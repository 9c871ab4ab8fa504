"""The origin ``house`` of a lead image is called ``blog``."""

from django.db import migrations

_RENAME = """
UPDATE blogs_blog
SET defaults = jsonb_set(defaults, '{shape,lead,order}',
    replace((defaults #> '{shape,lead,order}')::text, '"house"', '"blog"')::jsonb)
WHERE (defaults #> '{shape,lead,order}')::text LIKE '%"house"%'
"""


class Migration(migrations.Migration):
    dependencies = [("blogs", "0003_keys")]

    operations = [migrations.RunSQL(_RENAME, migrations.RunSQL.noop)]
