from django.db import migrations, models


def _compute_again(apps, schema_editor):
    """Mark the items that were stored without features, which a job then computes."""
    rows = apps.get_model("items", "Item").objects.filter(link__startswith="http", link_key="")
    rows.update(features_version=0)


class Migration(migrations.Migration):
    """No item is stored without its features any more."""

    atomic = False

    dependencies = [("items", "0012_entry_mark")]

    operations = [
        migrations.RunPython(_compute_again, migrations.RunPython.noop),
        migrations.AddConstraint(
            "item",
            models.CheckConstraint(
                condition=~models.Q(link__startswith="http") | ~models.Q(link_key="") | models.Q(features_version=0),
                name="item_has_features",
            ),
        ),
    ]
