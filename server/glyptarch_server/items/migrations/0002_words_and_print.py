"""Words and print of each text are kept with it: they were made anew in every process before."""

from django.apps.registry import Apps
from django.db import migrations, models
from django.db.backends.base.schema import BaseDatabaseSchemaEditor
from glyptarch_core.text import Passage, fingerprint_of

_BATCH = 500


def _fill(apps: Apps, _editor: BaseDatabaseSchemaEditor) -> None:
    item = apps.get_model("items", "Item")
    rows = []
    for row in item.objects.only("text", "summary_text").iterator(chunk_size=_BATCH):
        row.folded = Passage(row.text).folded
        row.print = fingerprint_of(Passage(row.text or row.summary_text)).packed()
        rows.append(row)
        if len(rows) == _BATCH:
            item.objects.bulk_update(rows, ["folded", "print"])
            rows = []
    item.objects.bulk_update(rows, ["folded", "print"])


class Migration(migrations.Migration):
    """Two columns, filled for what is there."""

    dependencies = [("items", "0001_initial")]

    operations = [
        migrations.AddField("item", "folded", models.TextField(blank=True, default=""), preserve_default=False),
        migrations.AddField("item", "print", models.BinaryField(default=bytes)),
        migrations.RunPython(_fill, migrations.RunPython.noop, elidable=True),
    ]
