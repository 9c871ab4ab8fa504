"""Names are compared by a key that is made in one place; names that fold to one key keep a key of their own."""

from django.db import migrations, models
from glyptarch_core.text import name_key

NAMED = ("category", "tag", "byline")


def fill_keys(apps, schema_editor):
    for name in NAMED:
        model = apps.get_model("blogs", name)
        seen = set()
        rows = []
        for row in model.objects.order_by("pk").iterator():
            row.key = name_key(row.name)
            if (row.blog_id, row.key) in seen:
                row.key = f"{row.key[:280]} #{row.pk}"
            seen.add((row.blog_id, row.key))
            rows.append(row)
        model.objects.bulk_update(rows, ["key"], batch_size=500)


class Migration(migrations.Migration):
    dependencies = [("blogs", "0002_house")]

    operations = [
        *(migrations.RemoveConstraint(model_name=name, name=f"{name}_name_once") for name in NAMED),
        *(
            migrations.AddField(
                model_name=name, name="key", field=models.CharField(default="", max_length=300), preserve_default=False
            )
            for name in NAMED
        ),
        migrations.RunPython(fill_keys, migrations.RunPython.noop),
        *(
            migrations.AddConstraint(
                model_name=name,
                constraint=models.UniqueConstraint(fields=("blog", "key"), name=f"{name}_key_once"),
            )
            for name in NAMED
        ),
    ]
