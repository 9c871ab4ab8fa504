from django.db import migrations

from glyptarch_server.items.migrations._counting import COUNT, STOP_COUNTING


class Migration(migrations.Migration):
    dependencies = [("items", "0010_takedown"), ("sources", "0015_source_item_count")]

    operations = [migrations.RunSQL(COUNT, STOP_COUNTING)]
