"""The print of a text is called its fingerprint."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("items", "0005_features")]

    operations = [migrations.RenameField("item", "print", "fingerprint")]
