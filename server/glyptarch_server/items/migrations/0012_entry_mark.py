from django.db import migrations, models


class Migration(migrations.Migration):
    """Entries that have not changed need not be read: their marks are kept."""

    dependencies = [("items", "0011_counted")]

    operations = [migrations.AddField("item", "entry_mark", models.CharField(blank=True, max_length=32))]
